import { Input } from "antd";
import { useDeferredValue, useId } from "react";
import { Refusal, type Problem } from "../../api/client";
import { useUnderstood } from "../../api/hooks";
import { FieldAnswer, type Answer } from "../../workshop/FieldAnswer";

interface Props {
  label: string;
  value: string;
  kind: "volume" | "torque" | "distance";
  /** What the server said of what was sent, and the field it says it of. */
  problem: Problem | null;
  field: string;
  change: (value: string) => void;
  /** Writes down what is typed, or the answer to a question about it. */
  submit: Answer;
}

/** An amount typed as one says it; what was understood stands below while typing. */
export function AmountField({ label, value, kind, problem, field, change, submit }: Props) {
  const id = useId();
  const typed = useDeferredValue(value);
  const understood = useUnderstood(typed, kind);
  const doubt = understood.error instanceof Refusal ? understood.error.message : "";
  const answered = problem?.errors.some((error) => error.pointer === `/${field}`) ?? false;
  const same = understood.data?.words.replaceAll(" ", "") === typed.replaceAll(" ", "");
  return (
    <div className="amount">
      <label htmlFor={id}>{label}</label>
      <Input
        id={id}
        className="amount-input"
        autoComplete="off"
        value={value}
        status={answered && !problem?.question ? "error" : undefined}
        aria-describedby={`${id}-said`}
        onChange={(event) => change(event.target.value)}
        onPressEnter={() => submit(value, "")}
      />
      <div id={`${id}-said`}>
        {answered ? (
          <FieldAnswer
            problem={problem}
            field={field}
            answer={(said, sure) => {
              change(said);
              submit(said, sure);
            }}
          />
        ) : (
          <p className="amount-said">
            {doubt || (understood.data && !same ? `= ${understood.data.words}` : "")}
          </p>
        )}
      </div>
    </div>
  );
}
