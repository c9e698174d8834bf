import { Button, Input } from "antd";
import { useState } from "react";
import { useMay } from "../api/hooks";
import { alarm } from "./Alarms";
import type { DataOf } from "./entry";
import type { Sheet } from "./outbox";
import asksCss from "./asks/asks.module.css";
import benchCss from "./bench.module.css";
import controlsCss from "../ui/controls.module.css";

type Answer = (data: { reason: string; handed_back?: boolean }) => void;

const FOUND = ["Looked at it: all right", "Put right since", "Asked the lead"];

function Stop({ text, answer }: { text: string; answer: ((reason: string) => void) | null }) {
  const [reason, setReason] = useState("");
  return (
    <div className={asksCss.stop} role="alert" {...alarm(`Stop: ${text}`)}>
      <p>
        <b>Stop</b> {text}
      </p>
      {answer && (
        <div className={controlsCss.choices}>
          {FOUND.map((said) => (
            <Button key={said} onClick={() => answer(said)}>
              {said}
            </Button>
          ))}
          <Input
            className={benchCss.stopWords}
            aria-label="What was found"
            placeholder="or in your words"
            value={reason}
            onChange={(event) => setReason(event.target.value)}
            onPressEnter={() => reason.trim() && answer(reason)}
          />
          <Button disabled={!reason.trim()} onClick={() => answer(reason)}>
            Write it down
          </Button>
        </div>
      )}
    </div>
  );
}

/** A finding that says hold: only a lead goes past it, one way or the other. */
function Hold({
  text,
  answer,
  look,
}: {
  text: string;
  answer: Answer | null;
  /** Back to what was written down, where it is put right. */
  look: () => void;
}) {
  const lead = useMay("lead");
  const [reason, setReason] = useState("");
  const missing = !reason.trim();
  return (
    <div className={asksCss.stop} role="alert" {...alarm(`Hold: ${text}`)}>
      <p>
        <b>Hold</b> {text}
      </p>
      {answer && !lead && (
        <>
          <p>
            Not to be run, ridden or signed. A lead lifts it with a reason, or hands the bike back.
          </p>
          <Button onClick={look}>Look back at it</Button>
        </>
      )}
      {answer && lead && (
        <div className={controlsCss.choices}>
          <Input
            className={benchCss.stopWords}
            aria-label="Why, in a lead's words"
            placeholder="why, in your words"
            value={reason}
            onChange={(event) => setReason(event.target.value)}
          />
          <Button disabled={missing} onClick={() => answer({ reason })}>
            Lift the hold
          </Button>
          <Button disabled={missing} onClick={() => answer({ reason, handed_back: true })}>
            Hand it back, not to be ridden
          </Button>
          <Button onClick={look}>Look back at it</Button>
        </div>
      )}
    </div>
  );
}

/** What should not have happened, until somebody says what was found of it. */
export function Stops({
  sheet,
  answer,
  look,
}: {
  sheet: Sheet;
  answer: ((step: string, data: DataOf<"answered">) => void) | null;
  look: (step: string) => void;
}) {
  const open = answer && sheet.state === "open";
  const seized = sheet.tasks.map((task) => task.stopped).filter(Boolean);
  return (
    <>
      {seized.map((text) => (
        <p key={text} className={benchCss.caution} role="alert" {...alarm(`Stop: ${text}`)}>
          <b>Stop</b> {text}
        </p>
      ))}
      {sheet.away.map((text) => (
        <p key={text} className={benchCss.caution} role="note">
          <b>Not to be ridden</b> {text}.
        </p>
      ))}
      {sheet.stops.map((stop) => {
        const say = open
          ? (data: DataOf<"answered">) => answer(stop.step, { entry: stop.entry, ...data })
          : null;
        if (stop.lasts) return <Stop key={stop.entry} text={stop.text} answer={null} />;
        return stop.hold ? (
          <Hold key={stop.entry} text={stop.text} answer={say} look={() => look(stop.step)} />
        ) : (
          <Stop key={stop.entry} text={stop.text} answer={say && ((reason) => say({ reason }))} />
        );
      })}
      {sheet.handed_back && (
        <p className={benchCss.caution} role="alert" {...alarm("Not to be ridden")}>
          <b>Not to be ridden</b> It goes back to its owner as it stands: {sheet.handed_back} Leave
          the visit with what was agreed.
        </p>
      )}
    </>
  );
}
