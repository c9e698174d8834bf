import { Button } from "antd";
import { alarm } from "./Alarms";
import type { Kept, Sheet } from "./outbox";
import { outbox } from "./sending";
import benchCss from "./bench.module.css";
import controlsCss from "../ui/controls.module.css";

interface Props {
  sheet: Sheet;
  waiting: Kept[];
  /** What the server would not have, at other steps than the one in hand. */
  held: Kept[];
  silent: boolean;
  /** What the server said is the matter. */
  why: string;
  look: (step: string) => void;
}

function Unsent({ waiting, why }: { waiting: Kept[]; why: string }) {
  const many = waiting.length === 1 ? "1 entry" : `${waiting.length} entries`;
  return (
    <p className={benchCss.banner} role="status" {...alarm(`Not sent yet: ${many}`, true)}>
      Not sent yet: {many}. Kept on this tablet, trying again.{why && ` ${why}`}
    </p>
  );
}

/** One that was set aside: it stays here until it is put right at its step, or thrown away. */
function SetAside({ sheet, kept, look }: { sheet: Sheet; kept: Kept; look: Props["look"] }) {
  const { step: id } = kept.entry;
  const step = sheet.steps.find((one) => one.id === id);
  return (
    <li className={benchCss.banner} {...alarm(`Not written down: “${step?.title ?? id}”`, true)}>
      Not written down: “{step?.title ?? id}”. {kept.problem?.detail}
      <span className={controlsCss.choices}>
        {step && <Button onClick={() => look(id)}>See to it</Button>}
        <Button onClick={() => outbox.drop(kept.entry.id)}>Throw it away</Button>
      </span>
    </li>
  );
}

/** What is on this tablet and not on the run sheet: on its way, or set aside. */
export function NotWritten({ sheet, waiting, held, silent, why, look }: Props) {
  return (
    <>
      {silent && waiting.length > 0 && <Unsent waiting={waiting} why={why} />}
      {held.length > 0 && (
        <ul className={benchCss.setAside} aria-label="Not written down">
          {held.map((kept) => (
            <SetAside key={kept.entry.id} sheet={sheet} kept={kept} look={look} />
          ))}
        </ul>
      )}
    </>
  );
}
