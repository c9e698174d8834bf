import { Button } from "antd";
import { fieldSentence } from "../../api/client";
import type { StepProps } from "../sheet";
import { Refused } from "../../ui/Refused";

export function LeaksStep({ step, problem, busy, send }: StepProps) {
  const said = fieldSentence(problem, "result");
  return (
    <>
      <Button
        type="primary"
        className="big-action"
        disabled={busy}
        onClick={() => send("leaks", { result: "dry" })}
      >
        Dry everywhere
      </Button>
      <div className="choices">
        {step.items.map((place) => (
          <Button
            key={place.code}
            className="wide-choice"
            disabled={busy}
            onClick={() => send("leaks", { result: place.code })}
          >
            Leak at the {place.words.toLowerCase()}
          </Button>
        ))}
      </div>
      <Refused said={said} />
    </>
  );
}
