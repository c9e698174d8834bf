import { Button, Input, Segmented } from "antd";
import { useState } from "react";
import type { Shape } from "../api/client";
import { useSession } from "../api/hooks";
import { Dialog } from "../ui/Dialog";
import { momentWords } from "../ui/days";
import type { Send } from "./entry";
import type { Sheet } from "./outbox";
import { Ticks } from "../ui/Ticks";
import asksCss from "./asks/asks.module.css";
import benchCss from "./bench.module.css";

/** What is open on the bike, and what that means for whoever goes away from it. */
export function StandsOpen({ sheet }: { sheet: Sheet }) {
  if (sheet.open_points.length === 0) return <p>The bike can stand as it is.</p>;
  return (
    <>
      <p className={benchCss.caution}>
        <b>Not safe as it stands</b> Cover what is open, hang a note on the bars, strap it down.
      </p>
      <ul>
        {sheet.open_points.map((point) => (
          <li key={point.code}>{point.text}</li>
        ))}
      </ul>
    </>
  );
}

/** What the visit waits for, until somebody goes on with it. */
export function WaitsFor({ sheet, send }: { sheet: Sheet; send: Send | null }) {
  const { waits } = sheet;
  if (!waits || sheet.state !== "open") return null;
  return (
    <section className={benchCss.waits} aria-label="What it waits for">
      <p>
        <b>Waits for {waits.words}</b> since {momentWords(waits.since)} ({waits.by})
      </p>
      <StandsOpen sheet={sheet} />
      {send && (
        <Button size="large" onClick={() => send("goes on", {})}>
          It goes on
        </Button>
      )}
    </section>
  );
}

/** The code of what has no code of its own: it is said in words. */
const IN_WORDS = "something else";

/** Says what the visit waits for, after reading back what is open. */
export function LetItWait({ sheet, send }: { sheet: Sheet; send: Send }) {
  const [asking, setAsking] = useState(false);
  const [what, setWhat] = useState(sheet.waits_for[0]?.code ?? "");
  const [words, setWords] = useState("");
  const missing = what === IN_WORDS && !words.trim();
  const write = () => {
    send("waits", { what, words });
    setAsking(false);
    setWords("");
  };
  return (
    <>
      <Button block onClick={() => setAsking(true)}>
        It has to wait
      </Button>
      <Dialog
        open={asking}
        title="What does it wait for?"
        okText="Let it wait"
        okButtonProps={{ disabled: missing }}
        onOk={write}
        onCancel={() => setAsking(false)}
      >
        <Segmented
          aria-label="It waits for"
          vertical
          block
          size="large"
          value={what}
          options={sheet.waits_for.map(({ code, words }) => ({ value: code, label: words }))}
          onChange={setWhat}
        />
        <label htmlFor="waits-words">Which, and what of it?</label>
        <Input
          id="waits-words"
          maxLength={200}
          placeholder="crush washer 12 mm, comes tomorrow"
          value={words}
          onChange={(event) => setWords(event.target.value)}
          onPressEnter={() => !missing && write()}
        />
        <StandsOpen sheet={sheet} />
      </Dialog>
    </>
  );
}

/** Reads back what is open to whoever takes over from somebody else. */
export function TakeOver({ sheet, send }: { sheet: Sheet; send: Send }) {
  const me = useSession().data?.id ?? "";
  const [asking, setAsking] = useState(false);
  const [touched, setTouched] = useState<string[]>([]);
  const from = sheet.in_hands_of;
  if (!from || sheet.in_hands_of_who === me) return null;
  const touch = sheet.open_points
    .filter((point) => point.touch)
    .map(({ code, text }) => ({ code, words: text }));
  const open = sheet.open_points.filter((point) => !point.touch);
  const missing = touch.some(({ code }) => !touched.includes(code));
  return (
    <>
      <Button block onClick={() => setAsking(true)}>
        Take over from {from}
      </Button>
      <Dialog
        open={asking}
        title={`What ${from} leaves you`}
        okText="I have it"
        okButtonProps={{ disabled: missing }}
        onOk={() => {
          send("takes over", { hands: touched });
          setAsking(false);
          setTouched([]);
        }}
        onCancel={() => setAsking(false)}
      >
        {touch.length > 0 && (
          <>
            <p>Only finger-tight. Put a hand on it, and tick it:</p>
            <Ticks items={touch} ticked={touched} change={setTouched} />
          </>
        )}
        {sheet.open_points.length === 0 && <p>Nothing is open.</p>}
        <ul>
          {open.map((point) => (
            <li key={point.code}>{point.text}</li>
          ))}
        </ul>
      </Dialog>
    </>
  );
}

/** Who has the step in hand, so that nobody does it twice. */
export function Taken({ step, send }: { step: Shape["StepShape"]; send: Send | null }) {
  const me = useSession().data?.id ?? "";
  const mine = step.taken_by_who === me;
  if (!step.taken_by) {
    return (
      send && (
        <Button type="text" className={asksCss.skip} onClick={() => send("takes", {})}>
          I take this step
        </Button>
      )
    );
  }
  return (
    <p className={benchCss.taken} role="status">
      {mine ? "You have this step." : `${step.taken_by} has this step. Ask before you do it too.`}
      {send && (
        <Button onClick={() => send(mine ? "gives up" : "takes", {})}>
          {mine ? "Give it up" : "I take it"}
        </Button>
      )}
    </p>
  );
}
