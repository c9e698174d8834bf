import { Button } from "antd";
import { fieldSentence } from "../../api/client";
import { useDraft } from "../draft";
import type { StepProps } from "../sheet";
import { AmountField } from "./AmountField";
import { Refused } from "../../ui/Refused";
import { Ticks } from "../../ui/Ticks";
import controlsCss from "../../ui/controls.module.css";

export function FilterStep({ sheet, step, task, problem, busy, send }: StepProps) {
  const [amount, setAmount] = useDraft(`${sheet.id}.${step.id}.ml`, task?.prefill ?? "");
  const [ticked, setTicked] = useDraft<string[]>(`${sheet.id}.${step.id}.ticks`, []);
  const [only, ...others] = step.items;
  const one = only !== undefined && others.length === 0 ? only : null;
  const write = (said: string, sure: string) =>
    send("filter", { amount: said, sure, items: one ? [one.code] : ticked });
  const missing = fieldSentence(problem, "items");
  return (
    <>
      {!one && <Ticks items={step.items} ticked={ticked} change={setTicked} />}
      <Refused said={missing} />
      <AmountField
        label="Oil in the new filter (part of the fill; empty if dry)"
        value={amount}
        kind="volume"
        problem={problem}
        field="amount"
        change={setAmount}
        submit={write}
      />
      <Button
        type="primary"
        className={controlsCss.bigAction}
        disabled={busy}
        onClick={() => write(amount, "")}
      >
        {one ? `It is on. ${one.words}` : "It is on"}
      </Button>
    </>
  );
}
