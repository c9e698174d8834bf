import { Button } from "antd";
import { Chips } from "../../ui/Chips";
import { useDraft } from "../draft";
import type { Option, StepProps } from "../sheet";
import controlsCss from "../../ui/controls.module.css";

/** What a big answer says, where that is more than what it is called. */
const SAYS: Partial<Record<string, string>> = {
  open: "It opens",
  new: "New seal on",
  turned: "Old one turned over",
};

function says({ code, words }: Option): string {
  return SAYS[code] ?? `${words.charAt(0).toUpperCase()}${words.slice(1)}`;
}

/** How a level or a leg is found is no matter of habit: nothing is put into the hand. */
const FOUND = /\/(came|leg tube|leg seals|leg stayed)$/;

/** A few big answers; the first is the usual one, where there is one. Where a level can be looked at before it is drained, how
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
      <div className={controlsCss.choices}>
        {step.options.map((option, index) => (
          <Button
            key={option.code}
            type={index === 0 && !FOUND.test(step.id) ? "primary" : "default"}
            className={controlsCss.bigAction}
            disabled={busy}
            onClick={() => send("answer", { value: option.code, ...(stood && { stood }) })}
          >
            {says(option)}
          </Button>
        ))}
      </div>
    </>
  );
}
