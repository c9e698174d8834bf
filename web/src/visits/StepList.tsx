import { clsx } from "clsx";
import { useState } from "react";
import type { Sheet } from "./outbox";
import { isClosed, isOpen, type Step } from "./sheet";
import benchCss from "./bench.module.css";
import textCss from "../ui/text.module.css";

const MARK: Record<Step["status"], string> = {
  done: "✓",
  skipped: "–",
  ready: "▸",
  running: "◷",
  blocked: "",
};

/** What a step says below its title: what was written down, what it waits for, that it is done again. */
function Below({ step }: { step: Step }) {
  const result = step.entry?.result ?? "done";
  let said = "";
  // whoever may read a plug anew does so before they see what it was read as
  if (step.regrade) said = `read by ${step.entry?.by ?? "somebody"}`;
  else if (isClosed(step)) said = result === "done" ? "" : result;
  else if (step.status === "blocked") said = step.unmet[0] ? `waits: ${step.unmet[0]}` : "";
  else if (step.reopened) said = "again";
  return said && <span className={benchCss.stepResult}>{said}</span>;
}

function Line({
  step,
  sheet,
  shown,
  look,
}: {
  step: Step;
  sheet: Sheet;
  shown: boolean;
  look: () => void;
}) {
  const next = step.id === sheet.focus;
  return (
    <li>
      <button
        className={clsx(
          benchCss.step,
          benchCss[`step-${step.status}`],
          shown && benchCss.stepShown,
          next && benchCss.stepNext,
        )}
        aria-current={shown ? "step" : undefined}
        onClick={look}
      >
        <span className={benchCss.stepMark} aria-hidden>
          {MARK[step.status]}
        </span>
        <span>
          {sheet.tasks.length > 1 && step.whose && (
            <span className={benchCss.stepWhose}>{step.whose} </span>
          )}
          {step.title}
          {step.round > 1 && step.kind === "level" ? ` (${step.round})` : ""}
          <Below step={step} />
          {step.taken_by && <span className={benchCss.stepResult}>{step.taken_by} has it</span>}
        </span>
      </button>
    </li>
  );
}

function Fold({
  title,
  steps,
  line,
}: {
  title: string;
  steps: Step[];
  line: (step: Step) => React.ReactNode;
}) {
  const [open, setOpen] = useState(false);
  if (steps.length === 0) return null;
  return (
    <>
      <button className={benchCss.fold} aria-expanded={open} onClick={() => setOpen(!open)}>
        {open ? "▾" : "▸"} {title} <span className={textCss.tabular}>{steps.length}</span>
      </button>
      {open && <ol>{steps.map(line)}</ol>}
    </>
  );
}

/** What can be done now, in the planned order; folded below it what waits and what is done. */
export function StepList({
  sheet,
  shown,
  look,
}: {
  sheet: Sheet;
  shown: string;
  look: (step: string) => void;
}) {
  const line = (step: Step) => (
    <Line
      key={step.id}
      step={step}
      sheet={sheet}
      shown={step.id === shown}
      look={() => look(step.id)}
    />
  );
  const open = sheet.steps.filter(isOpen);
  return (
    <nav className={benchCss.steps} aria-label="Steps">
      <h2>{sheet.state === "open" ? "Now" : "What was done"}</h2>
      {sheet.state === "open" && open.length > 0 && <ol>{open.map(line)}</ol>}
      {sheet.state === "open" && open.length === 0 && (
        <p className={textCss.soft}>
          {sheet.ready_to_sign ? "All done." : "Nothing until it is answered."}
        </p>
      )}
      <Fold
        title="Waits"
        steps={sheet.steps.filter((step) => step.status === "blocked" && step.kind !== "wait")}
        line={line}
      />
      <Fold title="Done" steps={sheet.steps.filter(isClosed)} line={line} />
    </nav>
  );
}
