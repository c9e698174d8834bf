import { Checkbox, Input } from "antd";
import { useState } from "react";
import { api, type Shape, gone } from "../api/client";
import { useBikeWrite } from "../api/hooks";
import { Ask, Field } from "../ui/Ask";
import { Dialog } from "../ui/Dialog";
import askCss from "../ui/ask.module.css";

const EMPTY = { odometer: "", hours: "", new_shows: "" };

function useRead(bike: string, done: () => void) {
  return useBikeWrite(
    bike,
    (body: Shape["NewReadingRequest"]) =>
      gone(
        api.POST("/api/bikes/{bike_id}/odometer/", {
          params: { path: { bike_id: bike } },
          body,
        }),
      ),
    done,
  );
}

/** What the odometer shows now, or that a new one was fitted. */
export function OdometerDialog({ page, close }: { page: Shape["BikePage"]; close: () => void }) {
  const [id] = useState(() => crypto.randomUUID());
  const [replaced, setReplaced] = useState(false);
  const save = useRead(page.id, close);
  return (
    <Dialog open title="Read the odometer" onCancel={close} footer={null} width={560}>
      <Ask
        initial={EMPTY}
        send={(given, sure) =>
          save.mutate({ ...given, id, sure, new_shows: replaced ? given.new_shows : "" })
        }
        error={save.error}
        pending={save.isPending}
        submit="Write it down"
      >
        <Field
          name="odometer"
          label={`${replaced ? "The old one showed at last" : "It shows now"}, in ${page.odometer_unit}`}
        >
          <Input placeholder={`last time ${page.odometer}`} />
        </Field>
        {page.counts_hours && (
          <Field name="hours" label="Hour meter">
            <Input />
          </Field>
        )}
        <Checkbox
          className={askCss.askTick}
          checked={replaced}
          onChange={(event) => setReplaced(event.target.checked)}
        >
          A new odometer was fitted
        </Checkbox>
        {replaced && (
          <Field name="new_shows" label="The new one shows">
            <Input />
          </Field>
        )}
      </Ask>
    </Dialog>
  );
}
