import { clsx } from "clsx";
import { Button } from "antd";
import { Link } from "react-router";
import type { Shape } from "../api/client";
import { Choice } from "../ui/Choice";
import { ASKED, byHand, type Asked, type Plan } from "./plan";
import planCss from "./plan.module.css";
import textCss from "../ui/text.module.css";

type TaskLine = Shape["TaskLine"];

function Tick({
  label,
  on,
  toggle,
  disabled,
}: {
  label: string;
  on: boolean;
  toggle: () => void;
  disabled?: boolean;
}) {
  return (
    <button
      role="checkbox"
      aria-checked={on}
      aria-label={label}
      className={planCss.planTick}
      disabled={disabled}
      onClick={toggle}
    >
      {on ? "✓" : ""}
    </button>
  );
}

function Said({ task }: { task: TaskLine }) {
  if (task.done) {
    return (
      <span className={planCss.planWhy}>
        Done in this visit. <Link to={`/visits/${task.done}`}>See its run sheet</Link>
      </span>
    );
  }
  return (
    <>
      {task.chosen && task.along.length > 0 && (
        <span className={planCss.planAlong}>New with it: {task.along.join(", ")}</span>
      )}
      {task.chosen && task.not_serviceable && (
        <span className={clsx(textCss.soft, planCss.planWhy)}>
          {task.not_serviceable} Done by the manual, without a run sheet.
        </span>
      )}
      <span className={clsx(textCss.soft, planCss.planWhy)}>{task.reason.text}</span>
    </>
  );
}

function Task({
  task,
  toggle,
  choose,
}: {
  task: TaskLine;
  toggle: () => void;
  choose: (variant: string) => void;
}) {
  const open = task.chosen && !task.done;
  return (
    <li className={clsx(planCss.planTask, task.chosen && planCss.planTaskOn)}>
      <Tick label={task.label} on={task.chosen} toggle={toggle} disabled={task.done !== ""} />
      <div>
        <b>{task.label}</b> {!task.done && <span className={textCss.soft}>{task.when}</span>}
        {open && task.variants.length > 1 && (
          <Choice
            className={planCss.planVariant}
            aria-label={`Which capacity, ${task.label}`}
            value={task.variant}
            options={task.variants}
            onChange={choose}
          />
        )}
        <Said task={task} />
      </div>
    </li>
  );
}

type Asking = { plan: Plan; asked: Asked; ask: (asked: Asked) => void };

/** The tasks as they are asked for by now, and how to change one. */
function useTasks({ plan, asked, ask }: Asking) {
  const chosen = byHand(plan, asked, {});
  const tasks = plan.tasks.map((task): TaskLine => {
    const one = chosen.tasks.find((other) => other.reservoir === task.reservoir);
    return { ...task, chosen: one !== undefined, variant: one?.variant ?? task.variant };
  });
  const set = (reservoir: string, variant: string | null) => {
    const others = chosen.tasks.filter((task) => task.reservoir !== reservoir);
    ask({ ...chosen, wishes: [], tasks: variant ? [...others, { reservoir, variant }] : others });
  };
  return { tasks, set };
}

function ColdJobs({ plan, asked, ask }: Asking) {
  const set = (key: string, on: boolean) => {
    const others = asked.cold.filter((one) => one !== key);
    ask(byHand(plan, asked, { cold: on ? [...others, key] : others }));
  };
  return plan.cold.map((job) => {
    const on = asked.cold.includes(job.key);
    return (
      <li key={job.key} className={clsx(planCss.planTask, on && planCss.planTaskOn)}>
        <Tick label={job.label} on={on} toggle={() => set(job.key, !on)} />
        <div>
          <b>{job.label}</b> <span className={textCss.soft}>{job.minutes} min</span>
        </div>
      </li>
    );
  });
}

function TwoYears({ plan: { together, alone } }: { plan: Plan }) {
  return (
    <p className={textCss.soft}>
      Visits over two years: {together.visits} done like this ({together.hours} h, {together.litres}{" "}
      l of oil), {alone.visits} with each when it is due ({alone.hours} h, {alone.litres} l).
    </p>
  );
}

/** What can be done in this visit, what the planner proposes, and why. */
export function Tasks(asking: Asking) {
  const { plan, asked, ask } = asking;
  const { tasks, set } = useTasks(asking);
  const { technicians, hands, pans, planned, on } = asked;
  return (
    <section aria-label="What to do" className={planCss.planWhat}>
      <h2>What to do</h2>
      <ul>
        {tasks.map((task) => (
          <Task
            key={task.reservoir}
            task={task}
            toggle={() => set(task.reservoir, task.chosen ? null : task.variant)}
            choose={(variant) => set(task.reservoir, variant)}
          />
        ))}
        <ColdJobs {...asking} />
      </ul>
      {!asked.proposed && (
        <Button onClick={() => ask({ ...ASKED, technicians, hands, pans, planned, on })}>
          Back to what is proposed
        </Button>
      )}
      <TwoYears plan={plan} />
    </section>
  );
}
