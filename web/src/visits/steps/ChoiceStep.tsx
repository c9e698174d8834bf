import { Button } from "antd";
import type { StepProps } from "../sheet";

const WORDS: Record<string, string> = {
  open: "It opens",
  seized: "Seized",
  new: "New seal on",
  "turned over": "Old one turned over",
  "reused, looks good": "Reused, looks good",
  "reused, nothing else there": "Reused, nothing else there",
};

/** A few big answers; the first is the usual one. */
export function ChoiceStep({ step, busy, send }: StepProps) {
  return (
    <div className="choices">
      {step.options.map((option, index) => (
        <Button
          key={option}
          type={index === 0 ? "primary" : "default"}
          className="big-action"
          disabled={busy}
          onClick={() => send("answer", { value: option })}
        >
          {WORDS[option] ?? `${option.charAt(0).toUpperCase()}${option.slice(1)}`}
        </Button>
      ))}
    </div>
  );
}
