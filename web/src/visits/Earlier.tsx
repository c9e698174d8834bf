import { clsx } from "clsx";
import { Button, Input } from "antd";
import { useState } from "react";
import { earlierToday, timeWords } from "../ui/days";
import asksCss from "./asks/asks.module.css";
import benchCss from "./bench.module.css";

const AGO = [5, 15, 30, 60];

const minutesAgo = (minutes: number) => new Date(Date.now() - minutes * 60_000).toISOString();

interface Props {
  /** When it happened, if not now. */
  when: string | null;
  change: (when: string | null) => void;
}

/** What was done before it is written down is entered with the time it happened. */
export function Earlier({ when, change }: Props) {
  const [asking, setAsking] = useState(false);
  const [typed, setTyped] = useState("");
  const said = earlierToday(typed, new Date());
  if (when) {
    return (
      <p className={benchCss.taken} role="status">
        It is written down as of {timeWords(when)}, remembered.
        <Button onClick={() => change(null)}>It happened just now</Button>
      </p>
    );
  }
  if (!asking) {
    return (
      <Button type="text" className={asksCss.skip} onClick={() => setAsking(true)}>
        It happened earlier
      </Button>
    );
  }
  return (
    <div
      className={clsx(asksCss.skipForm, benchCss.earlier)}
      role="group"
      aria-label="When did it happen?"
    >
      {AGO.map((minutes) => (
        <Button key={minutes} onClick={() => change(minutesAgo(minutes))}>
          {minutes === 60 ? "1 h ago" : `${minutes} min ago`}
        </Button>
      ))}
      <Input
        aria-label="At what time, like 14:05"
        placeholder="or at, like 14:05"
        value={typed}
        onChange={(event) => setTyped(event.target.value)}
        onPressEnter={() => said && change(said)}
      />
      <Button disabled={!said} onClick={() => change(said)}>
        Then
      </Button>
    </div>
  );
}
