import { clsx } from "clsx";
import { Button } from "antd";
import { useState } from "react";
import { Bottles } from "../../glass/Bottles";
import { timeWords } from "../../ui/days";
import { Why } from "../../ui/Why";
import { dropDrafts, useDraft } from "../draft";
import { isClosed, type Step, type StepProps, type Task } from "../sheet";
import { AmountField } from "./AmountField";
import { Contradiction, LookAtGauge } from "./level";
import type { Oil } from "../OilChoice";
import { chosenOil, WhichOil } from "./WhichOil";
import asksCss from "./asks.module.css";
import controlsCss from "../../ui/controls.module.css";

type Coach = NonNullable<Task["coach"]>;
type Poured = Step["entries"][number];

interface AdviceProps {
  coach: Coach;
  added: string;
  /** What stands beside the bottles. */
  children?: React.ReactNode;
}

function Advice({ coach, added, children }: AdviceProps) {
  return (
    <div className={asksCss.coach}>
      <p className={asksCss.coachWords}>{coach.words}</p>
      <p>
        {added && <b className={asksCss.sum}>{added} is in. </b>}
        {coach.belief} <Why reasons={coach.reasons} />
      </p>
      <div className={asksCss.besideBottles}>
        <Bottles count={coach.bottles} />
        {children}
      </div>
    </div>
  );
}

const isAmount = ({ kind }: Poured) => kind === "pour" || kind === "draw";

interface SoFarProps {
  entries: Poured[];
  correct: (entry: Poured) => void;
  takeBack: (entry: Poured) => void;
}

/** What went in so far, each to be corrected; what was left where it stands, to be taken back. */
function SoFar({ entries, correct, takeBack }: SoFarProps) {
  if (entries.length === 0) return null;
  return (
    <ul className={asksCss.soFar} aria-label="So far">
      {entries.map((entry) => (
        <li key={entry.id}>
          <b>{entry.result}</b> {timeWords(entry.at)}
          {isAmount(entry) && (
            <Button type="text" onClick={() => correct(entry)}>
              Correct it
            </Button>
          )}
          {entry.kind === "left" && (
            <Button type="text" onClick={() => takeBack(entry)}>
              Take it back
            </Button>
          )}
        </li>
      ))}
    </ul>
  );
}

interface Way {
  words: string;
  go: () => void;
}

/** The one big action, and what else may be done. */
function Ways({ ways, busy, beside = false }: { ways: Way[]; busy: boolean; beside?: boolean }) {
  const first = (index: number) => index === 0 && !beside;
  return (
    <div className={controlsCss.choices}>
      {ways.map(({ words, go }, index) => (
        <Button
          key={words}
          type={first(index) ? "primary" : "default"}
          className={first(index) ? controlsCss.bigAction : controlsCss.wideChoice}
          disabled={busy}
          onClick={go}
        >
          {words}
        </Button>
      ))}
    </div>
  );
}

/** Amounts a hand measures at once: each goes in with one tap, and adds to what is in. */
function OneTap({
  taps,
  busy,
  pour,
}: {
  taps: Coach["taps"];
  busy: boolean;
  pour: (said: string) => void;
}) {
  if (taps.length === 0) return null;
  return (
    <div
      className={clsx(asksCss.taps, asksCss.oneTap)}
      role="group"
      aria-label="Goes in at one tap"
    >
      {taps.map(({ code, words }) => (
        <Button key={code} disabled={busy} onClick={() => pour(code)}>
          {words} is in
        </Button>
      ))}
    </div>
  );
}

/** The step that shuts the filler, where it can be done now. */
function closing(sheet: StepProps["sheet"], step: Step): Step | undefined {
  const found = sheet.steps.find(
    ({ kind, id }) => kind === "check" && id === `${step.reservoir}/close`,
  );
  return found?.status === "ready" ? found : undefined;
}

interface FormProps extends StepProps {
  /** What the coach says now; nothing at a step that is corrected. */
  coach: Coach | null;
}

/** An amount that is measured, or the one that is written down instead of another. */
function useMeasured({ sheet, step, coach }: Pick<FormProps, "sheet" | "step" | "coach">) {
  const draft = `${sheet.id}.${step.id}.${step.entries.length}`;
  const [amount, setAmount] = useDraft(draft, coach?.amount ?? "");
  // at a step that is done it is always one of its amounts that is put right: the last, unless said so
  const [instead, setInstead] = useState<Poured | null>(
    isClosed(step) ? (step.entries.filter(isAmount).at(-1) ?? null) : null,
  );
  const [other, setOther] = useState("");
  return {
    amount: instead ? other : amount,
    setAmount: instead ? setOther : setAmount,
    label: instead ? `Instead of ${instead.result}` : "Measured amount",
    more: instead ? { supersedes: instead.id } : {},
    correct: setInstead,
  };
}

/** Takes back that it was left where it stands. */
const takesBack = (send: StepProps["send"]) => (entry: Poured) =>
  send("left", { reason: "" }, { supersedes: entry.id });

/** It may stand where it does, inside its marks: one tap says why. */
function LeaveIt({ coach, busy, send }: Pick<FormProps, "coach" | "busy" | "send">) {
  if (!coach || coach.leaves.length === 0) return null;
  return (
    <div className={asksCss.leaveIt} role="group" aria-label="Leave it here">
      <p>It stands inside the marks. Leave it here:</p>
      <div className={asksCss.taps}>
        {coach.leaves.map(({ code, words }) => (
          <Button key={code} disabled={busy} onClick={() => send("left", { reason: code })}>
            {words}
          </Button>
        ))}
      </div>
    </div>
  );
}

/** What is taken out again, and where. */
function TakenOut({ coach, ...props }: FormProps) {
  const { step, problem, busy, send } = props;
  const { amount, setAmount, label, more, correct } = useMeasured({ ...props, coach });
  const draw = (said: string, sure: string, where: string) =>
    send("draw", { amount: said, sure, where }, more);
  return (
    <>
      {coach && <Advice coach={coach} added="" />}
      <AmountField
        label={label}
        value={amount}
        kind="volume"
        problem={problem}
        field="amount"
        change={setAmount}
        submit={(said, sure) => draw(said, sure, step.options[0]?.code ?? "")}
      />
      <Ways
        busy={busy}
        ways={step.options.map(({ code, words }) => ({
          words: `Out, ${words}`,
          go: () => draw(amount, "", code),
        }))}
      />
      <LeaveIt coach={coach} busy={busy} send={send} />
      <SoFar entries={step.entries} correct={correct} takeBack={takesBack(send)} />
    </>
  );
}

/** What may follow what is in: a look at the gauge, or the filler shut on what an engine may run on. */
function goesOn({ sheet, step, task, coach, send }: FormProps, look: () => void): Way[] {
  const close = closing(sheet, step);
  const ways: Way[] = [];
  if (step.options.length > 0 && task?.added) ways.push({ words: "Look at the gauge", go: look });
  if (coach?.enough && close) {
    const items = close.items.map(({ code }) => code);
    const go = () => {
      dropDrafts(sessionStorage, `${sheet.id}.${step.id}`);
      send("confirm", { items }, { step: close.id });
    };
    ways.push({ words: "Filler shut, run it", go });
  }
  return ways;
}

/** What goes in, as often as it takes. */
function GoesIn({ look, ...props }: FormProps & { look: () => void }) {
  const { sheet, step, task, coach, problem, busy, send } = props;
  const { amount, setAmount, label, more, correct } = useMeasured(props);
  const [oil, setOil] = useDraft<Oil>(`${sheet.id}.${step.id}.which`, chosenOil(task));
  // where an amount is put right, its oil stays what it was, unless another is chosen for it
  const [chosen, setChosen] = useState(false);
  const which = "supersedes" in more && !chosen ? {} : { fluid: oil.fluid, label: oil.label ?? "" };
  const pour = (said: string, sure: string, closed: boolean) =>
    send("pour", { amount: said, sure, closed, ...which }, more);
  const choose = (next: Oil) => {
    setChosen(true);
    setOil(next);
  };
  const putRight = (entry: Poured) => {
    setChosen(false);
    correct(entry);
  };
  const next = goesOn(props, look);
  const waits = coach !== null && coach.action !== "pour";
  const isIn: Way[] = [
    { words: "It is in", go: () => pour(amount, "", false) },
    { words: "It is in, filler closed", go: () => pour(amount, "", true) },
  ];
  return (
    <>
      {coach && (
        <Advice coach={coach} added={waits ? "" : (task?.added ?? "")}>
          <OneTap taps={coach.taps} busy={busy} pour={(said) => pour(said, "", false)} />
        </Advice>
      )}
      <Contradiction task={task} busy={busy} send={send} />
      {waits && <Ways ways={next} busy={busy} />}
      {task && <WhichOil task={task} oil={oil} problem={problem} change={choose} />}
      <AmountField
        label={label}
        value={amount}
        kind="volume"
        problem={problem}
        field="amount"
        change={setAmount}
        submit={(said, sure) => pour(said, sure, false)}
      />
      <Ways ways={waits ? isIn : [...isIn, ...next]} busy={busy} beside={waits} />
      <LeaveIt coach={coach} busy={busy} send={send} />
      <SoFar entries={step.entries} correct={putRight} takeBack={takesBack(send)} />
    </>
  );
}

/** What the coach says to pour or take out, and what was really poured. It stays until no more goes in:
 * each amount that is in leaves an empty form. */
export function FillStep(props: StepProps) {
  const { step, task } = props;
  const [looks, setLooks] = useState(false);
  const coach = isClosed(step) ? null : (task?.coach ?? null);
  const key = `${step.entries.length}.${coach?.amount}`;
  if (step.draws) return <TakenOut key={key} {...props} coach={coach} />;
  if (looks) return <LookAtGauge {...props} back={() => setLooks(false)} />;
  return <GoesIn key={key} {...props} coach={coach} look={() => setLooks(true)} />;
}
