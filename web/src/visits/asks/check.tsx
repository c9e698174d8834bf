import { Button } from "antd";
import { fieldSentence } from "../../api/client";
import { useDraft } from "../draft";
import type { Step, StepProps } from "../sheet";
import { Refused } from "../../ui/Refused";
import { Ticks } from "../../ui/Ticks";
import { SecondLook } from "./SecondLook";
import { Tore } from "./Tore";
import controlsCss from "../../ui/controls.module.css";

/** Whether all of it may be said in one word: where nothing is ticked yet. */
const atOnce = (step: Step, ticked: string[]) => step.at_once && ticked.length === 0;

function toSay(step: Step, ticked: string[]): string[] {
  return atOnce(step, ticked) ? step.items.map(({ code }) => code) : ticked;
}

/** What the one large button says: what it stands for. */
function label(step: Step, ticked: string[]): string {
  const [only] = step.items;
  if (only && step.items.length === 1) return only.words;
  if (!atOnce(step, ticked)) return "Done";
  const words = step.items.map((item) => item.words);
  return words
    .map((said, n) => (n ? `${said.charAt(0).toLowerCase()}${said.slice(1)}` : said))
    .join(", ");
}

/** Things to tick off; or a second person, who says it. */
export function CheckStep(props: StepProps) {
  const { sheet, step } = props;
  return step.second ? <SecondLook sheet={sheet} step={step} /> : <TickOff {...props} />;
}

/** Things to tick off; the last one says that it is done. */
function TickOff({ sheet, step, problem, busy, send }: StepProps) {
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
        data-at-once={atOnce(step, ticked)}
        disabled={busy}
        onClick={() => done(one ? [one.code] : toSay(step, ticked))}
      >
        {label(step, ticked)}
      </Button>
      {step.tears && <Tore busy={busy} tore={() => send("tore", {})} />}
    </>
  );
}
