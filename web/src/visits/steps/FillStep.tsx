import { Button } from "antd";
import { Bottles } from "../../glass/Bottles";
import { Why } from "../../workshop/Why";
import { useDraft } from "../draft";
import type { StepProps } from "../StepFocus";
import { AmountField } from "./AmountField";

/** What the coach says to pour or take out, and what was really poured. */
export function FillStep({ sheet, step, problem, busy, send }: StepProps) {
  // what the coach says now belongs to the step in hand, not to one being corrected
  const coach = step.status === "focus" ? sheet.coach : null;
  const [amount, setAmount] = useDraft(`${sheet.id}.${step.id}`, coach?.amount ?? "");
  const write = (said: string, sure: string) => send("pour", { amount: said, sure });
  return (
    <>
      {coach && (
        <div className="coach">
          <p className="coach-words">{coach.words}</p>
          <p>
            {coach.belief} <Why reasons={coach.reasons} />
          </p>
          <Bottles count={coach.bottles} />
        </div>
      )}
      <AmountField
        label="Measured amount"
        value={amount}
        kind="volume"
        problem={problem}
        field="amount"
        change={setAmount}
        submit={write}
      />
      <Button
        type="primary"
        className="big-action"
        disabled={busy}
        onClick={() => write(amount, "")}
      >
        {step.draws ? "It is out" : "It is in"}
      </Button>
    </>
  );
}
