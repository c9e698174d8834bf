import { clsx } from "clsx";
import { Checkbox, Input } from "antd";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { keep } from "../api/keep";
import { api, taken, type Shape } from "../api/client";
import { keys } from "../api/keys";
import { Ask, Field } from "../ui/Ask";
import { Choice } from "../ui/Choice";
import { Bottles } from "./Bottles";
import { Dialog } from "../ui/Dialog";
import askCss from "../ui/ask.module.css";

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

function useFluid(done: () => void) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: Form) => taken(api.PUT("/api/shelf/fluids/", { body })),
    onSuccess: async (shelf) => {
      await keep(client, keys.shelf, shelf);
      void client.invalidateQueries({ queryKey: keys.matchesAll });
      done();
    },
    onError: () => void client.invalidateQueries({ queryKey: keys.shelf }),
  });
}

function Texts({ list }: { list: typeof LABEL }) {
  return list.map(([field, label, hint]) => (
    <Field key={field} name={field} label={label}>
      <Input placeholder={hint} />
    </Field>
  ));
}

const FRICTION = ["", "MA", "MA1", "MA2", "MB"].map((value) => ({
  value,
  label: value || "none named",
}));

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
  const save = useFluid(close);
  const title = start.id ? start.name : "A new fluid";
  return (
    <Dialog open title={title} onCancel={close} footer={null} width={940}>
      {start.id > 0 && <Bottles fluid={start.id} size={start.bottle} />}
      <Ask
        className={clsx(askCss.ask, askCss.fluidForm)}
        initial={start}
        send={(given) => save.mutate(given)}
        error={save.error}
        pending={save.isPending}
        submit="Put it on the shelf"
      >
        <Field name="family" label="Made for">
          <Choice options={families} />
        </Field>
        <Texts list={LABEL} />
        <Field name="friction_class" label="Friction class on the label">
          <Choice options={FRICTION} />
        </Field>
        <h3 className={askCss.askWide}>Measured, from the data sheet</h3>
        <Texts list={MEASURED} />
        {start.id > 0 && (
          <Field name="retired" label="" tick className={askCss.askWide}>
            <Checkbox>No longer on the shelf</Checkbox>
          </Field>
        )}
      </Ask>
    </Dialog>
  );
}
