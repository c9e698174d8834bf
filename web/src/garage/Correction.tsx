import { Button, Input } from "antd";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { keep } from "../api/keep";
import { api, taken, type Shape } from "../api/client";
import { keys } from "../api/keys";
import { Ask, Field } from "../ui/Ask";

type Line = Shape["ReadingLine"];
const EMPTY = { odometer: "", hours: "", reason: "" };

function useCorrect(bike: string, reading: string, done: () => void) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: Shape["ReadingCorrectionRequest"]) =>
      taken(
        api.POST("/api/bikes/{bike_id}/odometer/{reading_id}/correction/", {
          params: { path: { bike_id: bike, reading_id: reading } },
          body,
        }),
      ),
    onSuccess: async (answer) => {
      await keep(client, keys.readings(bike), answer);
      void client.invalidateQueries({ queryKey: keys.bike(bike) });
      void client.invalidateQueries({ queryKey: keys.wards });
      done();
    },
    onError: () => void client.invalidateQueries({ queryKey: keys.readings(bike) }),
  });
}

/** What the odometer really showed, and why it was written down wrong. */
export function Correction({
  bike,
  page,
  line,
  done,
}: {
  bike: string;
  page: Shape["Readings"];
  line: Line;
  done: () => void;
}) {
  const [id] = useState(() => crypto.randomUUID());
  const save = useCorrect(bike, line.id, done);
  return (
    <Ask
      initial={EMPTY}
      send={(given, sure) => save.mutate({ ...given, id, seen: line.id, sure })}
      error={save.error}
      pending={save.isPending}
      submit="Correct it"
      beside={
        <Button size="large" onClick={done}>
          Leave it
        </Button>
      }
    >
      <Field name="odometer" label={`It really showed, in ${page.unit}`}>
        <Input autoFocus placeholder={line.odometer} />
      </Field>
      {page.counts_hours && (
        <Field name="hours" label="Hour meter, if that was wrong">
          <Input placeholder={line.hours} />
        </Field>
      )}
      <Field name="reason" label="Why">
        <Input placeholder="a digit too many" />
      </Field>
    </Ask>
  );
}
