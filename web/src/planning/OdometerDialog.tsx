import { Button, Checkbox, Input } from "antd";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { api, fieldSentence, Refusal, type Shape } from "../api/client";
import { keys } from "../api/hooks";
import { gone } from "../garage/sheets";
import { FieldAnswer } from "../workshop/FieldAnswer";
import { Refused } from "../workshop/Refused";
import { Dialog } from "../workshop/Dialog";

/** What the odometer shows now, or that a new one was fitted. */
export function OdometerDialog({ page, close }: { page: Shape["BikePage"]; close: () => void }) {
  const client = useQueryClient();
  const [id] = useState(() => crypto.randomUUID());
  const [odometer, setOdometer] = useState("");
  const [hours, setHours] = useState("");
  const answers = useRef<string[]>([]);
  const [replaced, setReplaced] = useState(false);
  const [newShows, setNewShows] = useState("");
  const save = useMutation({
    mutationFn: ({ shows, sure, meter }: { shows: string; sure: string; meter?: string }) => {
      if (sure) answers.current.push(sure);
      return gone(
        api.POST("/api/bikes/{bike_id}/odometer/", {
          params: { path: { bike_id: page.id } },
          body: {
            id,
            odometer: shows,
            sure: answers.current,
            hours: meter ?? hours,
            new_shows: replaced ? newShows : "",
          },
        }),
      );
    },
    onSuccess: () => {
      void client.invalidateQueries({ queryKey: keys.bike(page.id) });
      void client.invalidateQueries({ queryKey: ["ward"] });
      close();
    },
  });
  const problem = save.error instanceof Refusal ? save.error.problem : null;
  return (
    <Dialog open title="Read the odometer" onCancel={close} footer={null} width={560}>
      <form
        className="start"
        onSubmit={(event) => {
          event.preventDefault();
          save.mutate({ shows: odometer, sure: "" });
        }}
      >
        <label htmlFor="reading">
          {replaced ? "The old one showed at last" : "It shows now"}, in {page.odometer_unit}
        </label>
        <Input
          id="reading"
          value={odometer}
          placeholder={`last time ${page.odometer}`}
          onChange={(event) => setOdometer(event.target.value)}
        />
        <FieldAnswer
          problem={problem}
          field="odometer"
          answer={(shows, sure) => {
            setOdometer(shows);
            save.mutate({ shows, sure });
          }}
        />
        {page.counts_hours && (
          <>
            <label htmlFor="hours">Hour meter</label>
            <Input id="hours" value={hours} onChange={(event) => setHours(event.target.value)} />
            <FieldAnswer
              problem={problem}
              field="hours"
              answer={(said, sure) => {
                setHours(said);
                save.mutate({ shows: odometer, sure, meter: said });
              }}
            />
          </>
        )}
        <Checkbox checked={replaced} onChange={(event) => setReplaced(event.target.checked)}>
          A new odometer was fitted
        </Checkbox>
        {replaced && (
          <>
            <label htmlFor="new-shows">The new one shows</label>
            <Input
              id="new-shows"
              value={newShows}
              onChange={(event) => setNewShows(event.target.value)}
            />
            <Refused said={fieldSentence(problem, "new_shows")} />
          </>
        )}
        {save.error && !problem && <Refused said={save.error.message} />}
        <Button type="primary" htmlType="submit" disabled={save.isPending}>
          Write it down
        </Button>
      </form>
    </Dialog>
  );
}
