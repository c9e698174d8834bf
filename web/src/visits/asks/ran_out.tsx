import { Button } from "antd";
import { useState } from "react";
import { fieldSentence } from "../../api/client";
import { useDraft } from "../draft";
import type { StepProps } from "../sheet";
import { AmountField } from "./AmountField";
import { Refused } from "../../ui/Refused";
import controlsCss from "../../ui/controls.module.css";

const SOME = "some";
const LIKELY = ["50 ml", "100 ml", "200 ml", "500 ml", "1 l"];

/** How much is gone of a case that let oil out: nothing, some of it, or all. */
export function RanOutStep({ sheet, step, problem, busy, send }: StepProps) {
  const [amount, setAmount] = useDraft(`${sheet.id}.${step.id}`, "");
  const [some, setSome] = useState(amount !== "" || problem !== null);
  const write = (said: string, sure: string) => send("ran out", { how: SOME, amount: said, sure });
  return (
    <>
      <div className={controlsCss.choices}>
        {step.options.map(({ code, words }) => (
          <Button
            key={code}
            className={controlsCss.bigAction}
            type={some && code === SOME ? "primary" : "default"}
            disabled={busy}
            onClick={() => (code === SOME ? setSome(true) : send("ran out", { how: code }))}
          >
            {words}
          </Button>
        ))}
      </div>
      <Refused said={fieldSentence(problem, "how")} />
      {some && (
        <>
          <AmountField
            label="About how much, by the jug or by eye"
            value={amount}
            kind="volume"
            problem={problem}
            field="amount"
            offered={LIKELY}
            change={setAmount}
            submit={write}
          />
          <Button
            type="primary"
            className={controlsCss.bigAction}
            disabled={busy || amount === ""}
            onClick={() => write(amount, "")}
          >
            Write it down
          </Button>
        </>
      )}
    </>
  );
}
