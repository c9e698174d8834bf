import { Button, Input } from "antd";
import { useEffect, useRef, useState } from "react";
import type { Shape } from "../api/client";
import { fieldSentence } from "../api/client";
import { AfterGrading } from "../findings/AfterGrading";
import { BikeMap } from "../glass/BikeMap";
import { Earlier } from "./Earlier";
import { Taken } from "./Hands";
import type { NewEntry, Send, SendMore } from "./entry";
import type { Kept, Sheet } from "./outbox";
import { isClosed, taskOf, type Step, type StepProps } from "./sheet";
import { SecondHands, TiltIt } from "./Stance";
import { TipNote, WriteTip } from "./TipNote";
import { FORMS } from "./asks";
import { FindingStep } from "./asks/finding";
import { MoreSeen } from "./asks/MoreSeen";
import { timeWords } from "../ui/days";
import { useNarrow } from "../ui/useMedia";
import { Refused } from "../ui/Refused";
import asksCss from "./asks/asks.module.css";
import benchCss from "./bench.module.css";
import questionCss from "../ui/question.module.css";
import textCss from "../ui/text.module.css";

const NOT_CORRECTED = new Set<Shape["StepKind"]>(["timer", "drain", "wait"]);
const WHY = ["Not needed now", "Came in warm", "Nothing to measure with", "Only tightened again"];

function Skip({ step, problem, send }: Pick<StepProps, "step" | "problem" | "send">) {
  const [asking, setAsking] = useState(false);
  const [reason, setReason] = useState("");
  const said = fieldSentence(problem, "reason");
  if (!asking) {
    return (
      <Button type="text" className={asksCss.skip} onClick={() => setAsking(true)}>
        Skip this step
      </Button>
    );
  }
  return (
    <form
      className={asksCss.skipForm}
      onSubmit={(event) => {
        event.preventDefault();
        send("skip", { reason });
      }}
    >
      {WHY.map((why) => (
        <Button key={why} onClick={() => send("skip", { reason: why })}>
          {why}
        </Button>
      ))}
      <Input
        autoFocus
        aria-label={`Why is “${step.title}” skipped?`}
        placeholder="or why else?"
        value={reason}
        onChange={(event) => setReason(event.target.value)}
      />
      <Button htmlType="submit">Skip</Button>
      <Refused said={said} />
    </form>
  );
}

interface DoneProps {
  step: Step;
  correct: (() => void) | null;
  /** Says that what it had shut is out again. */
  opensAgain: (() => void) | null;
}

/** What has been said about a step that is already done. */
function Done({ step, correct, opensAgain }: DoneProps) {
  return (
    <div className={asksCss.doneStep}>
      <p className={asksCss.doneResult}>{step.entry?.result}</p>
      {step.entry && (
        <p className={textCss.soft}>
          {step.entry.by}, {timeWords(step.entry.at)}
          {step.entry.remembered && ", remembered"}
        </p>
      )}
      {correct && (
        <Button size="large" onClick={correct}>
          Correct it
        </Button>
      )}
      {opensAgain && (
        <Button size="large" onClick={opensAgain}>
          {step.opens_again}
        </Button>
      )}
    </div>
  );
}

interface ClosedProps extends StepProps {
  readOnly: boolean;
  /** Opens the step's form to correct it. */
  open: (opened: boolean) => void;
}

/** A step that is done: what was said, and of a plug its verdict and its last tips. */
function Closed({ readOnly, open, ...props }: ClosedProps) {
  const { sheet, step, send } = props;
  // the reading that is being read anew; once somebody has, there is another
  const [again, setAgain] = useState<string | null>(null);
  const fixed = readOnly || NOT_CORRECTED.has(step.kind) || !step.entry;
  const opens = !readOnly && step.opens_again !== "";
  const done = (
    <Done
      step={step}
      correct={fixed ? null : () => open(true)}
      opensAgain={opens ? () => send("opens again", {}) : null}
    />
  );
  if (step.kind !== "finding") return done;
  if (again !== null && again === step.entry?.id) {
    return <FindingStep {...props} send={(kind, data) => send(kind, data)} regrade />;
  }
  return (
    <AfterGrading
      bike={sheet.bike.id}
      step={step}
      verdict={taskOf(sheet, step)?.verdict ?? null}
      regrade={() => setAgain(step.entry?.id ?? null)}
    >
      {done}
      <MoreSeen {...props} readOnly={readOnly} send={(kind, data) => send(kind, data)} />
    </AfterGrading>
  );
}

/** What was refused as a whole; what goes against a need, or reopens something, may stand. */
function Sentence({
  refused,
  accept,
}: {
  refused: Kept | null;
  accept: (entry: NewEntry, accepts: string) => void;
}) {
  if (!refused) return null;
  const { entry, problem } = refused;
  if (!problem) return null;
  const asked = problem.errors.find((error) => error.pointer === "/accepts");
  if (asked) {
    return (
      <div className={questionCss.question} role="alert">
        <p>{asked.detail}</p>
        <Button size="large" onClick={() => accept(entry, asked.sure)}>
          {entry.supersedes ? "Correct it all the same" : "It happened all the same"}
        </Button>
      </div>
    );
  }
  // what belongs to a field is shown there
  if (problem.errors.some((error) => error.pointer)) return null;
  return <Refused said={problem.detail} />;
}

/** What goes with a step: where, caution, what it waits for, and what the last entry means. */
function Notes({ step }: { step: Step }) {
  return (
    <>
      {step.place && (
        <p className={benchCss.place}>
          <b>Where</b> {step.place}
        </p>
      )}
      {step.tip && <TipNote tip={step.tip} />}
      {step.unchecked.map((said) => (
        <p key={said} className={asksCss.notChecked}>
          <b>Not checked</b> {said}
        </p>
      ))}
      {step.caution && (
        <p className={benchCss.caution}>
          <b>Caution</b> {step.caution}
        </p>
      )}
      {step.status === "blocked" && (
        <p className={benchCss.place} role="status">
          <b>Waits</b> {step.unmet.join("; ")}
        </p>
      )}
      {step.reopened && !isClosed(step) && (
        <p className={benchCss.remark} role="status">
          Opened again, or done over, since: do it once more.
        </p>
      )}
      {step.remark && !(step.kind === "finding" && isClosed(step)) && (
        <p className={benchCss.remark} role="status">
          {step.remark}
        </p>
      )}
    </>
  );
}

/** This plug, here: the step's plug on the bike map, the others faint. */
function ThisPlug({ sheet, spot }: { sheet: Sheet; spot: Shape["SpotShape"] }) {
  const plugs = sheet.plugs.map((plug) => ({
    id: `${plug.reservoir}/${plug.part}`,
    label: `${plug.reservoir_label}, ${plug.part}`,
    role: plug.role,
    x: plug.x,
    y: plug.y,
  }));
  const here = plugs.find((plug) => plug.x === spot.x && plug.y === spot.y);
  if (!here) return null;
  return (
    <figure className={asksCss.thisPlug}>
      <BikeMap layout={sheet.layout} plugs={plugs} here={here.id} compact />
      <figcaption>This one: {here.label}</figcaption>
    </figure>
  );
}

/** On a phone the number to set and the one large tap come before the map. */
function useMapBelow(step: Step): boolean {
  const narrow = useNarrow();
  return narrow && step.kind === "torque";
}

function Instruction({ sheet, step }: Pick<StepProps, "sheet" | "step">) {
  const spot = useMapBelow(step) ? null : step.spot;
  return (
    <div className={spot ? asksCss.focusTopMap : undefined}>
      <div>
        <p className={benchCss.instruction}>{step.instruction}</p>
        <Notes step={step} />
      </div>
      {spot && <ThisPlug sheet={sheet} spot={spot} />}
    </div>
  );
}

function MapBelow({ sheet, step }: Pick<StepProps, "sheet" | "step">) {
  const below = useMapBelow(step);
  return below && step.spot && <ThisPlug sheet={sheet} spot={step.spot} />;
}

interface Props extends Omit<StepProps, "send" | "problem"> {
  refused: Kept | null;
  accept: (entry: NewEntry, accepts: string) => void;
  readOnly: boolean;
  send: SendMore;
}

interface BesideProps extends Pick<StepProps, "step" | "problem" | "send"> {
  readOnly: boolean;
  children: React.ReactNode;
}

/** What else can be said of a step that is open: skipped, done earlier, whose it is. */
function Beside({ step, problem, readOnly, send, children }: BesideProps) {
  if (readOnly) return <Taken step={step} send={null} />;
  return (
    <div className={benchCss.beside}>
      {step.skippable && <Skip step={step} problem={problem} send={send} />}
      {children}
      <Taken step={step} send={send} />
    </div>
  );
}

/** One step in focus: what to do, its caution, its instrument, one big action. */
export function StepFocus({ readOnly, send, refused, accept, ...props }: Props) {
  const { step, sheet } = props;
  const correcting = isClosed(step);
  const [opened, setOpened] = useState(false);
  const [when, setWhen] = useState<string | null>(null);
  const heading = useRef<HTMLHeadingElement>(null);
  useEffect(() => {
    // a new step: keyboard and reader start here
    heading.current?.focus({ preventScroll: true });
    heading.current?.scrollIntoView({ block: "nearest" });
  }, []);
  const Form = FORMS[step.kind];
  const record: Send = (kind, data, more) =>
    send(kind, data, {
      ...(correcting && { supersedes: step.entry?.id ?? null }),
      ...(when && { at: when, remembered: true }),
      ...more,
    });
  const showForm = !readOnly && (!correcting || opened);
  const problem = refused?.problem ?? null;
  return (
    <div data-step={step.id} data-status={step.status} data-entries={step.entries.length}>
      <h1 ref={heading} tabIndex={-1}>
        {step.title}
      </h1>
      <Instruction sheet={sheet} step={step} />
      <SecondHands sheet={sheet} step={step} send={readOnly ? null : send} />
      <Sentence refused={refused} accept={accept} />
      {showForm ? (
        <Form {...props} problem={problem} send={record} />
      ) : (
        <Closed {...props} problem={problem} send={send} readOnly={readOnly} open={setOpened} />
      )}
      {!correcting && (
        <Beside step={step} problem={problem} readOnly={readOnly} send={record}>
          <Earlier when={when} change={setWhen} />
          <WriteTip visit={sheet.id} step={step} />
          <TiltIt sheet={sheet} step={step} send={send} />
        </Beside>
      )}
      <MapBelow sheet={sheet} step={step} />
    </div>
  );
}
