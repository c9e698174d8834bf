import { Button, Input } from "antd";
import { useState } from "react";
import type { Sheet } from "./outbox";

const FOUND = ["Looked at it: all right", "Put right since", "Asked the lead"];

function Stop({ text, answer }: { text: string; answer: ((reason: string) => void) | null }) {
  const [reason, setReason] = useState("");
  return (
    <div className="stop" role="alert">
      <p>
        <b>Stop</b> {text}
      </p>
      {answer && (
        <div className="choices">
          {FOUND.map((said) => (
            <Button key={said} onClick={() => answer(said)}>
              {said}
            </Button>
          ))}
          <Input
            className="stop-words"
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

/** What should not have happened, until somebody says what was found of it. */
export function Stops({
  sheet,
  answer,
}: {
  sheet: Sheet;
  answer: ((step: string, data: Record<string, unknown>) => void) | null;
}) {
  const seized = sheet.tasks.map((task) => task.stopped).filter(Boolean);
  return (
    <>
      {seized.map((text) => (
        <p key={text} className="caution" role="alert">
          <b>Stop</b> {text}
        </p>
      ))}
      {sheet.stops.map((stop) => (
        <Stop
          key={stop.entry}
          text={stop.text}
          answer={
            answer && sheet.state === "open"
              ? (reason) => answer(stop.step, { entry: stop.entry, reason })
              : null
          }
        />
      ))}
    </>
  );
}
