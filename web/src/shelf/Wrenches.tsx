import { clsx } from "clsx";
import { Button, Input } from "antd";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { keep } from "../api/keep";
import { api, taken, type Shape } from "../api/client";
import { keys } from "../api/keys";
import { Ask, Field } from "../ui/Ask";
import { Choice } from "../ui/Choice";
import { Day } from "../ui/Day";
import { Dialog } from "../ui/Dialog";
import shelfCss from "./shelf.module.css";
import textCss from "../ui/text.module.css";

type Form = Required<Shape["WrenchForm"]>;

const EMPTY: Form = {
  ...{ id: 0, version: 0, name: "", unit: "N·m", low: "", high: "", resolution: "" },
  ...{ accuracy: "4", length: "", calibrated: "" },
};

function WrenchDialog({ start, units, close }: DialogProps) {
  const client = useQueryClient();
  const save = useMutation({
    mutationFn: (body: Form) => taken(api.PUT("/api/wrenches/", { body })),
    onSuccess: async (all) => {
      await keep(client, keys.wrenches, all);
      close();
    },
    onError: () => void client.invalidateQueries({ queryKey: keys.wrenches }),
  });
  return (
    <Dialog open title={start.id ? start.name : "A torque wrench"} onCancel={close} footer={null}>
      <Ask
        initial={start}
        send={(given) => save.mutate(given)}
        error={save.error}
        pending={save.isPending}
        submit="Hang it up"
      >
        <Field name="name" label="How you call it" need="Give it a name.">
          <Input maxLength={60} placeholder="small click wrench" />
        </Field>
        <Field name="unit" label="Unit of its scale">
          <Choice options={units} />
        </Field>
        <Field name="low" label="Scale from">
          <Input placeholder="5" />
        </Field>
        <Field name="high" label="Scale to">
          <Input placeholder="25" />
        </Field>
        <Field name="resolution" label="From one mark to the next">
          <Input placeholder="0.5" />
        </Field>
        <Field name="accuracy" label="Accuracy on its calibration sheet, ± %">
          <Input />
        </Field>
        <Field
          name="length"
          label="From the middle of the drive to the middle of the grip, mm; for crow-feet"
        >
          <Input placeholder="340" />
        </Field>
        <Field name="calibrated" label="Calibrated on">
          <Day allowClear />
        </Field>
      </Ask>
    </Dialog>
  );
}

interface DialogProps {
  start: Form;
  units: string[];
  close: () => void;
}

/** The torque wrenches on the wall; a setting at the bench is given in their own scale. */
export function Wrenches({ mayWork }: { mayWork: boolean }) {
  const [open, setOpen] = useState<Form | null>(null);
  const { data } = useQuery({
    queryKey: keys.wrenches,
    queryFn: () => taken(api.GET("/api/wrenches/")),
  });
  if (!data) return null;
  return (
    <section className={clsx(shelfCss.shelfPaper, shelfCss.drawer)} aria-label="Torque wrenches">
      <h2>Torque wrenches</h2>
      <ul className={shelfCss.wrenches}>
        {data.wrenches.map(({ form, usable, simulated, calibration, past }) => (
          <li key={form.id}>
            {mayWork ? (
              <button className={shelfCss.fluidName} onClick={() => setOpen({ ...EMPTY, ...form })}>
                {form.name}
              </button>
            ) : (
              <b>{form.name}</b>
            )}{" "}
            <span className={textCss.tabular}>{usable}</span>, ± {form.accuracy} %
            {simulated && ", simulated"}
            {calibration && (past ? <b>, {calibration}</b> : `, ${calibration}`)}
          </li>
        ))}
      </ul>
      {data.wrenches.length === 0 && (
        <p className={textCss.soft}>None yet: torques are said, but no setting of a scale.</p>
      )}
      {mayWork && <Button onClick={() => setOpen(EMPTY)}>Another wrench</Button>}
      {open && <WrenchDialog start={open} units={data.units} close={() => setOpen(null)} />}
    </section>
  );
}
