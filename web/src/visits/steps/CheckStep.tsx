import { Button } from "antd";
import { fieldSentence } from "../../api/client";
import { useDraft } from "../draft";
import type { StepProps } from "../StepFocus";
import { Refused } from "../../workshop/Refused";

/** Rows to tick, large enough for a glove. */
export function Ticks({
  items,
  ticked,
  change,
}: {
  items: string[];
  ticked: string[];
  change: (ticked: string[]) => void;
}) {
  return (
    <div className="ticks">
      {items.map((item) => {
        const on = ticked.includes(item);
        return (
          <button
            key={item}
            role="checkbox"
            aria-checked={on}
            className={on ? "tick tick-on" : "tick"}
            onClick={() => change(on ? ticked.filter((t) => t !== item) : [...ticked, item])}
          >
            <span className="tick-box" aria-hidden>
              {on ? "✓" : ""}
            </span>
            {item}
          </button>
        );
      })}
    </div>
  );
}

export function CheckStep({ sheet, step, problem, busy, send }: StepProps) {
  const [ticked, setTicked, drop] = useDraft<string[]>(`${sheet.id}.${step.id}`, []);
  const said = fieldSentence(problem, "items");
  return (
    <>
      <Ticks items={step.items} ticked={ticked} change={setTicked} />
      <Refused said={said} />
      <Button
        type="primary"
        className="big-action"
        disabled={busy}
        onClick={() => {
          if (step.items.every((item) => ticked.includes(item))) drop();
          send("confirm", { items: ticked });
        }}
      >
        Done
      </Button>
    </>
  );
}
