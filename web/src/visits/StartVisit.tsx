import { Input, Segmented } from "antd";
import { useState } from "react";
import { useNavigate } from "react-router";
import type { Shape } from "../api/client";
import { useOpenVisit } from "../api/hooks";
import { Ask, Field } from "../workshop/Ask";
import { Dialog } from "../workshop/Dialog";

interface Props {
  bike: Shape["BikePage"];
  reservoir: Shape["ReservoirPage"];
  planned?: string;
  close: () => void;
}

/** Opening a visit: the odometer first, then which capacity applies. */
export function StartVisit({ bike, reservoir, planned, close }: Props) {
  const go = useNavigate();
  const open = useOpenVisit();
  const [id] = useState(() => crypto.randomUUID());
  const { key, label } = reservoir.glass;
  const start = { odometer: "", hours: "", variant: planned ?? reservoir.variants[0] ?? "" };
  return (
    <Dialog open title={`Service the ${label}`} onCancel={close} footer={null} width={560}>
      <Ask
        initial={start}
        send={(given, sure) =>
          open.mutate(
            { ...given, id, sure, bike: bike.id, reservoir: key, fluid: "" },
            { onSuccess: (sheet) => void go(`/visits/${sheet.id}`) },
          )
        }
        error={open.error}
        pending={open.isPending}
        submit="Start the run sheet"
      >
        <Field name="odometer" label={`Odometer now, in ${bike.odometer_unit}`}>
          <Input size="large" inputMode="decimal" placeholder={`last time ${bike.odometer}`} />
        </Field>
        {bike.counts_hours && (
          <Field name="hours" label="Hour meter now">
            <Input size="large" />
          </Field>
        )}
        <Field name="variant" label="Which capacity">
          <Segmented block size="large" options={reservoir.variants} />
        </Field>
      </Ask>
    </Dialog>
  );
}
