import { Button } from "antd";
import { Chips } from "../../workshop/Chips";
import { useDraft } from "../draft";
import type { StepProps } from "../sheet";

const WORDS: Record<string, string> = {
  open: "It opens",
  seized: "Seized",
  new: "New seal on",
  "turned over": "Old one turned over",
  "reused, looks good": "Reused, looks good",
  "reused, nothing else there": "Reused, nothing else there",
};

/** A few big answers; the first is the usual one. Where a level can be looked at before it is drained, how
 * it stood goes with the answer. */
export function ChoiceStep({ sheet, step, busy, send }: StepProps) {
  const [stood, setStood] = useDraft(`${sheet.id}.${step.id}.stood`, "");
  return (
    <>
      {step.stood.length > 0 && (
        <Chips
          label="Level as it came"
          words={step.stood}
          on={[stood]}
          toggle={(word) => setStood(word === stood ? "" : word)}
        />
      )}
      <div className="choices">
        {step.options.map((option, index) => (
          <Button
            key={option}
            type={index === 0 ? "primary" : "default"}
            className="big-action"
            disabled={busy}
            onClick={() => send("answer", { value: option, ...(stood && { stood }) })}
          >
            {WORDS[option] ?? `${option.charAt(0).toUpperCase()}${option.slice(1)}`}
          </Button>
        ))}
      </div>
    </>
  );
}
