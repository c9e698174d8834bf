import { Button } from "antd";
import { fieldSentence } from "../../api/client";
import { useDraft } from "../outbox";
import type { StepProps } from "../StepFocus";
import { AmountField } from "./AmountField";

export function AmountStep({ sheet, step, problem, busy, send }: StepProps) {
  const [amount, setAmount] = useDraft(`${sheet.id}.${step.id}`, "");
  const write = () => send("amount", { amount });
  return (
    <>
      <AmountField
        label="Amount, as the jug shows it"
        value={amount}
        kind="volume"
        refused={fieldSentence(problem, "amount")}
        change={setAmount}
        submit={write}
      />
      <Button type="primary" className="big-action" disabled={busy} onClick={write}>
        Write it down
      </Button>
    </>
  );
}
