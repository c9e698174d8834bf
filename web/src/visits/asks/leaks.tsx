import { Button } from "antd";
import { fieldSentence } from "../../api/client";
import type { StepProps } from "../sheet";
import { Refused } from "../../ui/Refused";
import controlsCss from "../../ui/controls.module.css";

export function LeaksStep({ step, problem, busy, send }: StepProps) {
  const said = fieldSentence(problem, "result");
  return (
    <>
      <Button
        type="primary"
        className={controlsCss.bigAction}
        disabled={busy}
        onClick={() => send("leaks", { result: "dry" })}
      >
        Dry everywhere
      </Button>
      <div className={controlsCss.choices}>
        {step.items.map((place) => (
          <Button
            key={place.code}
            className={controlsCss.wideChoice}
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
