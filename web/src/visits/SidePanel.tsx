import { clsx } from "clsx";
import { Button } from "antd";
import { PlugTip } from "../glass/PlugTip";
import { useState } from "react";
import { timeWords } from "../ui/days";
import { Ahead } from "./Ahead";
import { Countdown } from "./Countdown";
import { LetItWait, TakeOver } from "./Hands";
import { Leave } from "./Leave";
import { Legs } from "./Legs";
import type { Send } from "./entry";
import type { Sheet } from "./outbox";
import { ledTo, running, type Step, type Task } from "./sheet";
import { StandsNow } from "./Stance";
import { AddTask, TakeOut } from "./Tasks";
import { useCall } from "./useCall";
import { useTick } from "./useClock";
import asksCss from "./asks/asks.module.css";
import benchCss from "./bench.module.css";
import textCss from "../ui/text.module.css";
import verdictCss from "../ui/verdict.module.css";

/** What runs, and of which reservoir where its title does not say so. */
function named(sheet: Sheet, step: Step): string {
  const said = sheet.tasks.length < 2 || !step.whose || step.title.includes(step.whose);
  return said ? step.title : `${step.whose}: ${step.title}`;
}

/** Every wait that runs, each leading to its step. */
function Timers({
  sheet,
  now,
  look,
}: {
  sheet: Sheet;
  now: () => number;
  look: (step: string) => void;
}) {
  const waits = running(sheet);
  const { wished, wish } = useCall(
    waits.map((step) => step.ends_at ?? ""),
    now,
  );
  if (waits.length === 0) return null;
  return (
    <>
      <ul className={benchCss.timers} aria-label="Running">
        {waits.map((step) => (
          <Running key={step.id} sheet={sheet} step={step} now={now} look={look} />
        ))}
      </ul>
      <Button block aria-pressed={wished} onClick={() => wish(!wished)}>
        {wished ? "Calls aloud when one is over" : "Call aloud when one is over"}
      </Button>
    </>
  );
}

/** A wait that runs; once it has run out it calls. */
function Running({
  sheet,
  step,
  now,
  look,
}: {
  sheet: Sheet;
  step: Step;
  now: () => number;
  look: (step: string) => void;
}) {
  useTick(1000);
  const over = Date.parse(step.ends_at ?? "") <= now();
  return (
    <li>
      <button
        className={clsx(benchCss.sideTimer, over && benchCss.sideTimerOver)}
        onClick={() => look(ledTo(sheet, step).id)}
      >
        <span>{named(sheet, step)}</span>
        {step.ends_at && <Countdown endsAt={step.ends_at} now={now} />}
      </button>
    </li>
  );
}

function Part({ part }: { part: Shape }) {
  return (
    <div className={clsx(benchCss.standing, part.open && asksCss.standingOpen)}>
      <dt>{part.part}</dt>
      <dd>
        {part.word}
        {part.by && part.at && (
          <span className={benchCss.standingBy}>
            {part.by}, {timeWords(part.at)}
          </span>
        )}
      </dd>
    </div>
  );
}

type Shape = Task["standing"][number];

/** What must not be forgotten of a reservoir, in a line; where nothing is open, that. */
function inShort(task: Task): string {
  const open = task.standing.filter((part) => part.open);
  const names = open.map((part) => part.part.toLowerCase()).join(", ");
  return names ? `open: ${names}` : "nothing open";
}

/** How a reservoir stands, for whoever comes back to it: a line that unfolds. */
interface StandingProps {
  sheet: Sheet;
  task: Task;
  mayWork: boolean;
  look: (step: string) => void;
}

function Standing(props: StandingProps) {
  const { task, sheet } = props;
  const [open, setOpen] = useState(sheet.state !== "open");
  return (
    <section className={benchCss.standings} aria-label={`How the ${task.label} stands`}>
      <button className={benchCss.standingFold} aria-expanded={open} onClick={() => setOpen(!open)}>
        {open ? "▾" : "▸"} <b>{task.label}</b>: {inShort(task)}
      </button>
      {open && <Parts {...props} />}
    </section>
  );
}

/** What the plug was read as, once it was; there the last ones lie beside it. */
function PlugRead({ sheet, task, look }: Omit<StandingProps, "mayWork">) {
  const step = sheet.steps.find(
    ({ kind, reservoir }) => kind === "finding" && reservoir === task.key,
  );
  if (!step || !task.verdict || step.regrade) return null;
  return (
    <button type="button" className={benchCss.plugRead} onClick={() => look(step.id)}>
      {!task.verdict.no_magnet && (
        <PlugTip parts={task.verdict.parts} level={task.verdict.level} size={40} />
      )}
      <span>
        {task.verdict.no_magnet ? "Seen" : "Plug"}:{" "}
        <b className={clsx(verdictCss.verdict, verdictCss[`verdict-${task.verdict.level}`])}>
          {task.verdict.level}
        </b>
        , beside the last ones
      </span>
    </button>
  );
}

/** What came out tells, and how much of it stays. */
function OilThen({ sheet, task }: Pick<StandingProps, "sheet" | "task">) {
  const means = sheet.steps.find((step) => step.drained && step.reservoir === task.key)?.remark;
  return (
    <>
      {means && <p className={benchCss.cameOut}>{means}</p>}
      {task.flush ? (
        <p className={benchCss.flush} role="status">
          {task.flush}
        </p>
      ) : (
        task.old_oil && <p className={benchCss.cameOut}>{task.old_oil}</p>
      )}
    </>
  );
}

function Parts({ sheet, task, mayWork, look }: StandingProps) {
  return (
    <>
      <h3>
        {task.label}
        {mayWork && sheet.state === "open" && task.may_leave && sheet.tasks.length > 1 && (
          <TakeOut visit={sheet.id} task={task} />
        )}
      </h3>
      <dl>
        {task.standing
          .filter((part) => !part.leg)
          .map((part) => (
            <Part key={part.part} part={part} />
          ))}
        {task.drained && (
          <div className={benchCss.standing}>
            <dt>Came out</dt>
            <dd className={textCss.tabular}>{task.drained}</dd>
          </div>
        )}
        {task.capacity && (
          <div className={benchCss.standing}>
            <dt>{task.variant ? `Book, ${task.variant}` : "Book"}</dt>
            <dd className={textCss.tabular}>{task.capacity}</dd>
          </div>
        )}
      </dl>
      <OilThen sheet={sheet} task={task} />
      <PlugRead sheet={sheet} task={task} look={look} />
      {task.coach && task.added && <p className={textCss.soft}>{task.coach.belief}</p>}
    </>
  );
}

/** What can be said of an open visit besides its steps. */
function Doings({ sheet, aside }: { sheet: Sheet; aside: Send }) {
  return (
    <>
      <TakeOver sheet={sheet} send={aside} />
      {!sheet.waits && <LetItWait sheet={sheet} send={aside} />}
      {!sheet.hands && (
        <Button block onClick={() => aside("calls", {})}>
          I need a second pair of hands
        </Button>
      )}
      <AddTask sheet={sheet} />
    </>
  );
}

/** What was asked for, and what no longer belongs to the visit. */
function Besides({ sheet }: { sheet: Sheet }) {
  return (
    <>
      {sheet.wants && (
        <p>
          <b>Asked for:</b> {sheet.wants}
        </p>
      )}
      {sheet.set_aside.length > 0 && (
        <p className={textCss.soft}>
          Not part of this visit now: {sheet.set_aside.map((entry) => entry.result).join("; ")}.
        </p>
      )}
    </>
  );
}

/** The state of the bike and the running timers, for whoever comes back to it. */
export function SidePanel({
  sheet,
  now,
  aside,
  look,
}: {
  sheet: Sheet;
  now: () => number;
  /** Writes down what is no work at a step; nothing where one only looks. */
  aside: Send | null;
  look: (step: string) => void;
}) {
  const doing = sheet.state === "open" ? aside : null;
  return (
    <aside className={benchCss.side} aria-label="State of the bike">
      <Timers sheet={sheet} now={now} look={look} />
      {sheet.state === "open" && <Ahead sheet={sheet} />}
      <StandsNow sheet={sheet} send={doing} />
      {sheet.opened > 0 && (
        <p className={textCss.tabular}>
          Opened <b>{sheet.opened}</b>, closed again <b>{sheet.closed}</b>
        </p>
      )}
      <Legs tasks={sheet.tasks} />
      {sheet.tasks.map((task) => (
        <Standing key={task.key} sheet={sheet} task={task} mayWork={aside !== null} look={look} />
      ))}
      <Besides sheet={sheet} />
      {doing && <Doings sheet={sheet} aside={doing} />}
      <p className={clsx(textCss.soft, asksCss.sideSheet)}>
        {sheet.odometer}
        {sheet.corrected && ` (the reading was corrected since: ${sheet.corrected})`} · spec sheet
        version {sheet.sheet_version}. The service manual comes first.
      </p>
      {doing && sheet.may_leave && <Leave sheet={sheet} />}
    </aside>
  );
}
