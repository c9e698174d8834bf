import { Button, Input, Segmented } from "antd";
import { fieldSentence } from "../../api/client";
import { LevelGlass } from "../../glass/LevelGlass";
import { Chips } from "../../ui/Chips";
import { Why } from "../../ui/Why";
import { isEarly, Stands } from "../Stands";
import { useDraft } from "../draft";
import type { StepProps } from "../sheet";
import { useTick } from "../useClock";
import { Refused } from "../../ui/Refused";
import { Unreadable } from "./Unreadable";
import asksCss from "./asks.module.css";
import textCss from "../../ui/text.module.css";
import controlsCss from "../../ui/controls.module.css";

/** Gauge and book disagree: which is it? */
export function Contradiction({ task, busy, send }: Pick<StepProps, "task" | "busy" | "send">) {
  const coach = task?.coach;
  if (coach?.action !== "stop") return null;
  return (
    <div className={asksCss.stop} role="alert">
      <p className={asksCss.coachWords}>{coach.words}</p>
      <p>
        {coach.belief} <Why reasons={coach.reasons} /> Which is it? If none, read the level again.
      </p>
      <div className={asksCss.causes}>
        {coach.causes.map(({ code, words }) => (
          <Button key={code} disabled={busy} onClick={() => send("cause", { cause: code })}>
            {words}
          </Button>
        ))}
      </div>
    </div>
  );
}

/** What the eye says: where it stands, nothing at all, or more than the glass shows. */
function Seen({
  blocked,
  placed,
  read,
}: {
  blocked: boolean;
  placed: boolean;
  read: (sight: string) => void;
}) {
  return (
    <>
      <Button
        type="primary"
        className={controlsCss.bigAction}
        disabled={blocked || !placed}
        onClick={() => read("seen")}
      >
        Read it
      </Button>
      {!placed && <p className={textCss.soft}>Drag the oil first, or touch the glass there.</p>}
      <div className={controlsCss.choices}>
        <Button disabled={blocked} onClick={() => read("below")}>
          Nothing to see
        </Button>
        <Button disabled={blocked} onClick={() => read("above")}>
          Above the top
        </Button>
      </div>
    </>
  );
}

type Gauge = NonNullable<StepProps["task"]>["gauge"];

/** Each pair of marks has a target of its own; before the attitude is said, the usual one's. */
function marksOf(gauge: Gauge | undefined, attitude: string) {
  return gauge?.marks.find((one) => one.attitude === attitude) ?? gauge?.marks[0];
}

/** How the bike stands, as somebody said so at the bench. */
function standsNow({ sheet, step }: Pick<StepProps, "sheet" | "step">): string {
  const pose = sheet.stance?.pose ?? "";
  return step.options.some(({ code }) => code === pose) ? pose : "";
}

interface GlassProps extends StepProps {
  early: boolean;
  /** Once it was read. */
  done?: () => void;
}

/** The level, dragged in the drawn glass to where the oil stands. */
function Glass({ sheet, step, task, now, problem, busy, send, early, done }: GlassProps) {
  const gauge = task?.gauge;
  const draft = `${sheet.id}.${step.id}`;
  // nothing is read before a hand has said where it stands
  const [at, setAt, drop] = useDraft<number | null>(`${draft}.at`, null);
  const [attitude, setAttitude] = useDraft(
    `${sheet.id}.${step.reservoir}.attitude`,
    standsNow({ sheet, step }),
  );
  const [warmth, setWarmth, dropWarmth] = useDraft(`${draft}.warmth`, "");
  const marks = marksOf(gauge, attitude);
  const refused = ["attitude", "position"].map((field) => fieldSentence(problem, field)).join("");
  const read = (sight: string) => {
    drop();
    dropWarmth();
    send("level", { sight, position: String(at ?? 0), attitude, ...(warmth && { warmth }) });
    done?.();
  };
  return (
    <div className={asksCss.two}>
      <LevelGlass
        position={at ?? 0.5}
        target={marks?.target ?? 0.75}
        stick={gauge?.name === "dipstick"}
        onChange={setAt}
      />
      <div className={asksCss.levelSide}>
        <p>
          Drag the oil to where it stands. The arrow shows where it should be; the marks are{" "}
          {marks?.between} apart.
        </p>
        <span id="attitude-label">The bike stands</span>
        <Segmented
          aria-labelledby="attitude-label"
          className={asksCss.attitude}
          block
          size="large"
          value={attitude}
          options={step.options.map(({ code, words }) => ({ value: code, label: words }))}
          onChange={setAttitude}
        />
        {gauge?.warm && step.kind === "level" && (
          <Chips
            label="Oil is"
            words={sheet.words.warmths}
            on={[warmth]}
            toggle={(word) => setWarmth(word === warmth ? "" : word)}
          />
        )}
        <Refused said={refused} />
        <Stands words="It settles" step={step} now={now} />
        <Seen blocked={busy || early} placed={at !== null} read={read} />
      </div>
    </div>
  );
}

/** A level plug, or an overflow: oil runs out of it, or it is dry. */
function Edge({ sheet, step, now, problem, busy, send, early }: GlassProps) {
  const draft = `${sheet.id}.${step.id}`;
  const [amount, setAmount, drop] = useDraft(`${draft}.ran-out`, "");
  const [attitude, setAttitude] = useDraft(
    `${sheet.id}.${step.reservoir}.attitude`,
    standsNow({ sheet, step }),
  );
  const refused = ["attitude", "amount", "sight"]
    .map((field) => fieldSentence(problem, field))
    .join("");
  const says = (sight: string) => {
    drop();
    send("level", { sight, attitude, ...(sight === "runs out" && { amount }) });
  };
  return (
    <div className={asksCss.levelSide}>
      <span id="attitude-label">The bike stands</span>
      <Segmented
        aria-labelledby="attitude-label"
        className={asksCss.ranOut}
        block
        size="large"
        value={attitude}
        options={step.options.map(({ code, words }) => ({ value: code, label: words }))}
        onChange={setAttitude}
      />
      <label className={asksCss.ranOut}>
        What ran out, as the jug shows it
        <Input
          size="large"
          placeholder="20 ml, if any"
          maxLength={100}
          value={amount}
          onChange={({ target }) => setAmount(target.value)}
        />
      </label>
      <Refused said={refused} />
      <Stands words="It settles" step={step} now={now} />
      <div className={controlsCss.choices}>
        <Button
          type="primary"
          className={controlsCss.bigAction}
          disabled={busy || early}
          onClick={() => says("runs out")}
        >
          Oil ran out
        </Button>
        <Button
          className={controlsCss.bigAction}
          disabled={busy || early}
          onClick={() => says("dry")}
        >
          Dry
        </Button>
      </div>
    </div>
  );
}

/** A look at the gauge while it is being filled. */
export function LookAtGauge({ back, ...props }: StepProps & { back: () => void }) {
  return (
    <>
      <p className={asksCss.lookHow}>The bike {props.task?.gauge?.how}.</p>
      <Glass {...props} early={false} done={back} />
      <Button type="text" className={asksCss.skip} onClick={back}>
        Back to the filling
      </Button>
    </>
  );
}

export function LevelStep(props: StepProps) {
  useTick(500);
  const { step, task, now, busy, send } = props;
  const early = isEarly(step, now);
  return (
    <>
      <Contradiction task={task} busy={busy} send={send} />
      {task?.gauge?.edge ? <Edge {...props} early={early} /> : <Glass {...props} early={early} />}
      <Unreadable
        problem={props.problem}
        busy={busy}
        send={send}
        edge={task?.gauge?.edge ?? false}
      />
    </>
  );
}
