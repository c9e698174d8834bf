import { Button, Input } from "antd";
import { fieldSentence } from "../../api/client";
import { Refused } from "../../ui/Refused";
import { useDraft } from "../draft";
import type { StepProps } from "../sheet";
import asksCss from "./asks.module.css";
import controlsCss from "../../ui/controls.module.css";

type Values = Record<string, string>;

function Column({
  title,
  when,
  step,
  values,
  problem,
  change,
}: Pick<StepProps, "step" | "problem"> & {
  title: string;
  when: "found" | "left";
  values: Values;
  change: (values: Values) => void;
}) {
  return (
    <fieldset className={asksCss.measured}>
      <legend>{title}</legend>
      {step.measured.map(({ name, kind }) => (
        <label key={name}>
          {name}
          <Input
            className={controlsCss.amountInput}
            aria-label={`${name}, ${title.toLowerCase()}`}
            placeholder={kind === "pressure" ? "like 2.4 bar" : "like 0.10 mm"}
            value={values[name] ?? ""}
            onChange={(event) => change({ ...values, [name]: event.target.value })}
          />
          <Refused said={fieldSentence(problem, `${when}.${name}`)} />
        </label>
      ))}
    </fieldset>
  );
}

/** Values as found and as left; where nothing was changed, as found is enough. */
export function MeasureStep({ sheet, step, problem, busy, send }: StepProps) {
  const [found, setFound] = useDraft<Values>(`${sheet.id}.${step.id}.found`, {});
  const [left, setLeft] = useDraft<Values>(`${sheet.id}.${step.id}.left`, {});
  return (
    <>
      <div className={asksCss.twoMeasured}>
        <Column
          title="As found"
          when="found"
          step={step}
          values={found}
          problem={problem}
          change={setFound}
        />
        <Column
          title="As left"
          when="left"
          step={step}
          values={left}
          problem={problem}
          change={setLeft}
        />
      </div>
      <Button
        type="primary"
        className={controlsCss.bigAction}
        disabled={busy}
        onClick={() => send("measure", { found, left })}
      >
        Write it down
      </Button>
    </>
  );
}
