import { Button } from "antd";
import { useDraft } from "../draft";
import type { StepProps } from "../sheet";
import { AmountField } from "./AmountField";

/** What the jug shows; what is expected is one tap. */
export function AmountStep({ sheet, step, task, problem, busy, send }: StepProps) {
  const [amount, setAmount] = useDraft(`${sheet.id}.${step.id}`, "");
  const write = (said: string, sure: string) => send("amount", { amount: said, sure });
  const expected = task?.expected_out ?? "";
  return (
    <>
      <AmountField
        label="Amount, as the jug shows it"
        value={amount}
        kind="volume"
        problem={problem}
        field="amount"
        offered={expected ? [expected] : []}
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
