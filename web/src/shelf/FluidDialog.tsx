import { Button, Checkbox, Input } from "antd";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, Refusal, taken, type Shape } from "../api/client";
import { FieldAnswer } from "../workshop/FieldAnswer";
import { Refused } from "../workshop/Refused";
import { Bottles } from "./Stock";
import { Dialog } from "../workshop/Dialog";

type Form = Required<Shape["FluidForm"]>;
type Text = Exclude<keyof Form, "id" | "version" | "retired" | "family" | "friction_class">;

export const EMPTY: Form = {
  ...{ id: 0, version: 0, name: "", family: "engine", bottle: "1 l", retired: false },
  ...{ grade: "", friction_class: "", service: "", base: "", approvals: "" },
  ...{ kv40: "", kv100: "", hths: "", cranking: "", pumping: "", density15: "", pour_point: "" },
  ...{ dfi: "", sfi: "", sti: "" },
};
const LABEL: [Text, string, string][] = [
  ["name", "Name", ""],
  ["bottle", "Bottle holds", "1 l or 1 qt"],
  ["grade", "Grade on the label", "10W-40"],
  ["service", "Service category", "API SL, GL-5, DOT 4"],
  ["base", "Base", "mineral, synthetic"],
  ["approvals", "Approvals", ""],
];
const MEASURED: [Text, string, string][] = [
  ["kv40", "Viscosity at 40 °C", "cSt"],
  ["kv100", "Viscosity at 100 °C", "cSt"],
  ["hths", "HTHS at 150 °C", "mPa·s"],
  ["cranking", "Cranking, at its W grade", "mPa·s"],
  ["pumping", "Pumping, at its W grade", "mPa·s"],
  ["density15", "Density at 15 °C", "kg/l or kg/m³"],
  ["pour_point", "Pour point", "°C"],
  ["dfi", "Dynamic friction index", ""],
  ["sfi", "Static friction index", ""],
  ["sti", "Stop time index", ""],
];

/** A fluid as its label and data sheet give it. */
export function FluidDialog({
  start,
  families,
  close,
}: {
  start: Form;
  families: string[];
  close: () => void;
}) {
  const client = useQueryClient();
  const [form, setForm] = useState(start);
  const save = useMutation({
    mutationFn: () => taken(api.PUT("/api/shelf/fluids/", { body: form })),
    onSuccess: (shelf) => {
      client.setQueryData(["shelf"], shelf);
      void client.invalidateQueries({ queryKey: ["matches"] });
      close();
    },
  });
  const problem = save.error instanceof Refusal ? save.error.problem : null;
  const fields = (list: typeof LABEL) =>
    list.map(([field, label, hint]) => (
      <label key={field}>
        {label}
        <Input
          value={form[field]}
          placeholder={hint}
          onChange={(event) => setForm({ ...form, [field]: event.target.value })}
        />
        <FieldAnswer
          problem={problem}
          field={field}
          answer={(said) => setForm({ ...form, [field]: said })}
        />
      </label>
    ));
  return (
    <Dialog
      open
      title={start.id ? start.name : "A new fluid"}
      onCancel={close}
      footer={null}
      width={940}
    >
      {start.id > 0 && <Bottles fluid={start.id} size={start.bottle} />}
      <form
        onSubmit={(event) => {
          event.preventDefault();
          save.mutate();
        }}
      >
        <div className="fluid-fields">
          <label>
            Made for
            <select
              className="plain-select"
              value={form.family}
              onChange={(event) => setForm({ ...form, family: event.target.value })}
            >
              {families.map((family) => (
                <option key={family}>{family}</option>
              ))}
            </select>
          </label>
          {fields(LABEL)}
          <label>
            Friction class on the label
            <select
              className="plain-select"
              value={form.friction_class}
              onChange={(event) => setForm({ ...form, friction_class: event.target.value })}
            >
              {["", "MA", "MA1", "MA2", "MB"].map((name) => (
                <option key={name} value={name}>
                  {name || "none named"}
                </option>
              ))}
            </select>
          </label>
        </div>
        <h3>Measured, from the data sheet</h3>
        <div className="fluid-fields">{fields(MEASURED)}</div>
        {start.id > 0 && (
          <Checkbox
            checked={form.retired}
            onChange={(event) => setForm({ ...form, retired: event.target.checked })}
          >
            No longer on the shelf
          </Checkbox>
        )}
        {save.error && !problem?.errors.some((error) => error.pointer) && (
          <Refused said={save.error.message} />
        )}
        <Button type="primary" htmlType="submit" block disabled={save.isPending}>
          Put it on the shelf
        </Button>
      </form>
    </Dialog>
  );
}
