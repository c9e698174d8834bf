import { Button } from "antd";
import { fieldSentence } from "../../api/client";
import { isEarly, Stands } from "../Stands";
import type { StepProps } from "../sheet";
import { useTick } from "../useClock";
import { Refused } from "../../ui/Refused";
import controlsCss from "../../ui/controls.module.css";

export function LeaksStep({ step, now, problem, busy, send }: StepProps) {
  useTick(500);
  const said = fieldSentence(problem, "result");
  const early = isEarly(step, now);
  return (
    <>
      <Stands words="It stands" step={step} now={now} />
      <Button
        type="primary"
        className={controlsCss.bigAction}
        disabled={busy || early}
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
