import { Button } from "antd";
import { useDraft } from "../draft";
import type { StepProps } from "../StepFocus";
import { AmountField } from "./AmountField";

export function AmountStep({ sheet, step, problem, busy, send }: StepProps) {
  const [amount, setAmount] = useDraft(`${sheet.id}.${step.id}`, "");
  const write = (said: string, sure: string) => send("amount", { amount: said, sure });
  return (
    <>
      <AmountField
        label="Amount, as the jug shows it"
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
        Write it down
      </Button>
    </>
  );
}
