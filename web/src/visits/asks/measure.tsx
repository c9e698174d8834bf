import { Button, Input } from "antd";
import { useState } from "react";
import { FieldAnswer } from "../../ui/FieldAnswer";
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
  answer,
}: Pick<StepProps, "step" | "problem"> & {
  title: string;
  when: "found" | "left";
  values: Values;
  change: (values: Values) => void;
  answer: (values: Values, sure: string) => void;
}) {
  return (
    <fieldset className={asksCss.measured}>
      <legend>{title}</legend>
      {step.measured.map(({ name, like }) => (
        <label key={name}>
          {name}
          <Input
            className={controlsCss.amountInput}
            aria-label={`${name}, ${title.toLowerCase()}`}
            placeholder={`like ${like}`}
            value={values[name] ?? ""}
            onChange={(event) => change({ ...values, [name]: event.target.value })}
          />
          <FieldAnswer
            problem={problem}
            field={`${when}.${name}`}
            answer={(said, sure) => answer({ ...values, [name]: said }, sure)}
          />
        </label>
      ))}
    </fieldset>
  );
}

/** Values as found and as left; where nothing was changed, as found is enough. What is read once is left as it is. */
export function MeasureStep({ sheet, step, problem, busy, send }: StepProps) {
  const [found, setFound] = useDraft<Values>(`${sheet.id}.${step.id}.found`, {});
  const [left, setLeft] = useDraft<Values>(`${sheet.id}.${step.id}.left`, {});
  const [sure, setSure] = useState<string[]>([]);
  const once = step.measured.every((one) => one.once);
  /** What stands is said once, however many values are asked about in turn. */
  const write = (values: { found: Values; left: Values }, also: string) => {
    const stands = also ? [...sure, also] : sure;
    setSure(stands);
    setFound(values.found);
    setLeft(values.left);
    send("measure", { ...values, sure: stands });
  };
  return (
    <>
      <div className={asksCss.twoMeasured}>
        <Column
          title={once ? "As read" : "As found"}
          when="found"
          step={step}
          values={found}
          problem={problem}
          change={setFound}
          answer={(values, also) => write({ found: values, left }, also)}
        />
        {!once && (
          <Column
            title="As left"
            when="left"
            step={step}
            values={left}
            problem={problem}
            change={setLeft}
            answer={(values, also) => write({ found, left: values }, also)}
          />
        )}
      </div>
      <Button
        type="primary"
        className={controlsCss.bigAction}
        disabled={busy}
        onClick={() => write({ found, left }, "")}
      >
        Write it down
      </Button>
    </>
  );
}
