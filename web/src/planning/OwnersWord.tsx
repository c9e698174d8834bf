import { Input } from "antd";
import { useState } from "react";
import { api, type Shape } from "../api/client";
import { useBikeWrite } from "../api/hooks";
import { gone } from "../garage/sheets";
import { Ask, Field } from "../workshop/Ask";
import { Day } from "../workshop/Day";
import { Dialog } from "../workshop/Dialog";

function useWord(bike: string, done: () => void) {
  return useBikeWrite(
    bike,
    (body: Shape["OwnersWordRequest"]) =>
      gone(
        api.POST("/api/bikes/{bike_id}/owners-word/", {
          params: { path: { bike_id: bike } },
          body,
        }),
      ),
    done,
  );
}

/** What the owner of a used bike says was done when, where nobody has a record. */
export function OwnersWord({
  bike,
  reservoir,
  close,
}: {
  bike: Shape["BikePage"];
  reservoir: Shape["ReservoirPage"];
  close: () => void;
}) {
  const [id] = useState(() => crypto.randomUUID());
  const save = useWord(bike.id, close);
  const { key, label } = reservoir.glass;
  return (
    <Dialog open title={`The owner says: ${label}`} onCancel={close} footer={null} width={560}>
      <p className="soft">
        It counts from then on, and stays marked as the owner&apos;s word until this workshop has
        done it once.
      </p>
      <Ask
        initial={{ done_on: "", odometer: "" }}
        send={(given, sure) => save.mutate({ ...given, id, reservoir: key, sure })}
        error={save.error}
        pending={save.isPending}
        submit="Take their word"
      >
        <Field name="done_on" label="Last done on">
          <Day />
        </Field>
        <Field name="odometer" label={`Odometer then, in ${bike.odometer_unit}`}>
          <Input placeholder={`now ${bike.odometer}`} />
        </Field>
      </Ask>
    </Dialog>
  );
}
