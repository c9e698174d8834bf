import { Button } from "antd";
import { fieldSentence } from "../../api/client";
import { useDraft } from "../draft";
import type { StepProps } from "../sheet";
import { Refused } from "../../ui/Refused";
import { Ticks } from "../../ui/Ticks";
import { Tore } from "./Tore";
import controlsCss from "../../ui/controls.module.css";

/** Things to tick off; the last one says that it is done. */
export function CheckStep({ sheet, step, problem, busy, send }: StepProps) {
  const [ticked, setTicked, drop] = useDraft<string[]>(`${sheet.id}.${step.id}`, []);
  const said = fieldSentence(problem, "items");
  const [only, ...others] = step.items;
  const one = only !== undefined && others.length === 0 ? only : null;
  const all = (items: string[]) => step.items.every(({ code }) => items.includes(code));
  const done = (items: string[]) => {
    if (all(items)) drop();
    send("confirm", { items });
  };
  return (
    <>
      {!one && (
        <Ticks
          items={step.items}
          ticked={ticked}
          change={(items) => {
            setTicked(items);
            if (all(items) && !busy) done(items);
          }}
        />
      )}
      <Refused said={said} />
      <Button
        type="primary"
        className={controlsCss.bigAction}
        disabled={busy}
        onClick={() => done(one ? [one.code] : ticked)}
      >
        {one?.words ?? "Done"}
      </Button>
      {step.tears && <Tore busy={busy} tore={() => send("tore", {})} />}
    </>
  );
}
