import { clsx } from "clsx";
import { Button, Checkbox, Segmented } from "antd";
import { useState } from "react";
import type { Shape } from "../api/client";
import { useSession } from "../api/hooks";
import { timeWords } from "../ui/days";
import { Dialog } from "../ui/Dialog";
import { alarm } from "./Alarms";
import type { Send } from "./entry";
import type { Sheet } from "./outbox";
import type { Step } from "./sheet";
import asksCss from "./asks/asks.module.css";
import benchCss from "./bench.module.css";

type Pose = Shape["Pose"];
type Hands = NonNullable<Sheet["hands"]>;

const STRAPPED = { pose: "upright", strapped: true } as const;

/** Asks how the bike stands now. */
function AskStance({
  sheet,
  first,
  say,
  close,
}: {
  sheet: Sheet;
  first: Pose;
  say: (stands: { pose: Pose; strapped: boolean }) => void;
  close: () => void;
}) {
  const [pose, setPose] = useState<Pose>(first);
  const [ticked, setTicked] = useState(false);
  const chosen = sheet.poses.find((one) => one.pose === pose);
  const strapped = ticked && chosen?.straps === true;
  return (
    <Dialog
      open
      title="How does the bike stand?"
      okText="So it stands"
      onOk={() => say({ pose, strapped })}
      onCancel={close}
    >
      <Segmented
        aria-label="The bike stands"
        vertical
        block
        size="large"
        value={pose}
        options={sheet.poses.map(({ pose: value, words }) => ({ value, label: words }))}
        onChange={setPose}
      />
      <Checkbox
        className={benchCss.strapped}
        checked={strapped}
        disabled={!chosen?.straps}
        onChange={(event) => setTicked(event.target.checked)}
      >
        Strapped down
      </Checkbox>
      {!strapped && (
        <p className={benchCss.caution}>
          <b>Caution</b> {chosen?.caution}
        </p>
      )}
    </Dialog>
  );
}

interface SayProps {
  sheet: Sheet;
  first: Pose;
  words: string;
  /** Fills its column; otherwise it is one quiet word among others. */
  block?: boolean;
  send: Send;
}

/** Says how the bike stands now. */
function SayStance({ sheet, first, words, block = false, send }: SayProps) {
  const [asking, setAsking] = useState(false);
  return (
    <>
      <Button
        block={block}
        type={block ? "default" : "text"}
        className={block ? undefined : asksCss.skip}
        onClick={() => setAsking(true)}
      >
        {words}
      </Button>
      {asking && (
        <AskStance
          sheet={sheet}
          first={first}
          close={() => setAsking(false)}
          say={(stands) => {
            send("stands", stands);
            setAsking(false);
          }}
        />
      )}
    </>
  );
}

/** How the bike stands, for whoever comes back to it. */
export function StandsNow({ sheet, send }: { sheet: Sheet; send: Send | null }) {
  const { stance } = sheet;
  if (!stance || sheet.state !== "open") return null;
  return (
    <section className={benchCss.stance} aria-label="How the bike stands">
      <p>
        Stands <b>{stance.words}</b>
        <span className={benchCss.standingBy}>
          {stance.by}, {timeWords(stance.since)}
        </span>
      </p>
      {send && (
        <SayStance
          sheet={sheet}
          first={stance.pose}
          words="It stands otherwise"
          block
          send={send}
        />
      )}
    </section>
  );
}

/** Tilting is part of draining; it is said, because nobody goes under the bike meanwhile. */
export function TiltIt({ sheet, step, send }: { sheet: Sheet; step: Step; send: Send }) {
  if (!step.tilts || step.status !== "running" || sheet.stance?.pose === "tilted") return null;
  return (
    <SayStance sheet={sheet} first="tilted" words="Tilt it, to empty the corners" send={send} />
  );
}

/** A bike that is not strapped, where that matters: it is tilted, or the step in hand is under it. */
export function NotStrapped({
  sheet,
  step,
  send,
}: {
  sheet: Sheet;
  step: Step | undefined;
  send: Send | null;
}) {
  const { stance } = sheet;
  if (!stance || stance.strapped || sheet.state !== "open") return null;
  if (stance.pose !== "tilted" && step?.status !== "blocked") return null;
  return (
    <section
      className={benchCss.notStrapped}
      aria-label="The bike is not strapped"
      {...alarm(`Bike ${stance.words}`)}
    >
      <p>
        <b>{stance.words}</b> ({stance.by}, {timeWords(stance.since)}). {stance.caution}
      </p>
      {send && (
        <Button size="large" onClick={() => send("stands", STRAPPED)}>
          It stands upright, strapped down
        </Button>
      )}
    </section>
  );
}

/** What a step needs a second person for, and the call for one. */
export function SecondHands({
  sheet,
  step,
  send,
}: {
  sheet: Sheet;
  step: Step;
  send: Send | null;
}) {
  if (!step.hands || sheet.hands || !["ready", "running"].includes(step.status)) return null;
  return (
    <div className={clsx(benchCss.place, benchCss.secondHands)}>
      <span>
        <b>Second hands</b> Somebody {step.hands}.
      </span>
      {send && <Button onClick={() => send("calls", {})}>Call for them</Button>}
    </div>
  );
}

/** Who calls for a hand or lends one, as `me` reads it. */
function handsWords({ by, who, lent_by, lent_by_who, since }: Hands, me: string): [string, string] {
  if (lent_by === "") {
    const needs = who === me ? "You need" : `${by} needs`;
    return [`${needs} a second pair of hands`, `, since ${timeWords(since)}`];
  }
  return [lent_by_who === me ? "You lend a hand" : `${lent_by} lends a hand`, ""];
}

function HandsAnswer({ hands, me, send }: { hands: Hands; me: string; send: Send }) {
  if (hands.who !== me && !hands.lent_by) {
    return (
      <Button size="large" onClick={() => send("lends", {})}>
        I lend a hand
      </Button>
    );
  }
  if (![hands.who, hands.lent_by_who].includes(me)) return null;
  return (
    <Button size="large" onClick={() => send("lets go", {})}>
      {hands.lent_by ? "That was it" : "Not needed any more"}
    </Button>
  );
}

/** A second pair of hands: called for, or lent, whoever looks. */
export function HandsCalled({ sheet, send }: { sheet: Sheet; send: Send | null }) {
  const me = useSession().data?.id ?? "";
  const { hands } = sheet;
  if (!hands || sheet.state !== "open") return null;
  const [who, since] = handsWords(hands, me);
  return (
    <section className={clsx(benchCss.waits, benchCss.hands)} aria-label="A second pair of hands">
      <p>
        <b>{who}</b> at “{hands.title}”{hands.what && `: somebody ${hands.what}`}
        {since}.
      </p>
      {send && <HandsAnswer hands={hands} me={me} send={send} />}
    </section>
  );
}
