import { Button } from "antd";
import { fieldSentence } from "../../api/client";
import { useDraft } from "../draft";
import type { StepProps } from "../sheet";
import { Refused } from "../../ui/Refused";
import { Ticks } from "../../ui/Ticks";
import controlsCss from "../../ui/controls.module.css";

/** Things to tick off; a single one is one press. */
export function CheckStep({ sheet, step, problem, busy, send }: StepProps) {
  const [ticked, setTicked, drop] = useDraft<string[]>(`${sheet.id}.${step.id}`, []);
  const said = fieldSentence(problem, "items");
  const [only, ...others] = step.items;
  const one = only !== undefined && others.length === 0 ? only : null;
  return (
    <>
      {!one && <Ticks items={step.items} ticked={ticked} change={setTicked} />}
      <Refused said={said} />
      <Button
        type="primary"
        className={controlsCss.bigAction}
        disabled={busy}
        onClick={() => {
          const items = one ? [one.code] : ticked;
          if (step.items.every(({ code }) => items.includes(code))) drop();
          send("confirm", { items });
        }}
      >
        {one?.words ?? "Done"}
      </Button>
    </>
  );
}
