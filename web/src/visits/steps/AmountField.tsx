import { Input } from "antd";
import { useDeferredValue, useId } from "react";
import { Refusal } from "../../api/client";
import { useUnderstood } from "../../api/hooks";

interface Props {
  label: string;
  value: string;
  kind: "volume" | "torque" | "distance";
  /** The server's sentence about what was sent, if it was refused. */
  refused: string;
  change: (value: string) => void;
  submit: () => void;
}

/** An amount typed as one says it; what was understood stands below while typing. */
export function AmountField({ label, value, kind, refused, change, submit }: Props) {
  const id = useId();
  const typed = useDeferredValue(value);
  const understood = useUnderstood(typed, kind);
  const doubt = understood.error instanceof Refusal ? understood.error.message : "";
  const same = understood.data?.words.replaceAll(" ", "") === typed.replaceAll(" ", "");
  return (
    <div className="amount">
      <label htmlFor={id}>{label}</label>
      <Input
        id={id}
        className="amount-input"
        autoComplete="off"
        value={value}
        status={refused ? "error" : undefined}
        aria-describedby={`${id}-said`}
        onChange={(event) => change(event.target.value)}
        onPressEnter={submit}
      />
      <p
        id={`${id}-said`}
        className={refused ? "refusal" : "amount-said"}
        role={refused ? "alert" : undefined}
      >
        {refused || doubt || (understood.data && !same ? `= ${understood.data.words}` : "")}
      </p>
    </div>
  );
}
