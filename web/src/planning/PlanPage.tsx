import "./plan.css";
import { Button, Input, Segmented } from "antd";
import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { fieldSentence, Refusal, type Shape } from "../api/client";
import { Refused } from "../workshop/Refused";
import { Waiting, WentWrong } from "../workshop/States";
import { KitList } from "./KitList";
import { Lanes } from "./Lanes";
import { ASKED, clock, usePlan, usePlanVisit, type Asked, type Plan } from "./plan";

/** The same plan, asked for by hand: what is chosen now, with something changed. */
function byHand(plan: Plan, asked: Asked, more: Partial<Asked>): Asked {
  const tasks = plan.tasks
    .filter((task) => task.chosen)
    .map(({ reservoir, variant }) => ({ reservoir, variant }));
  return { ...asked, proposed: false, tasks, ...more };
}

function Task({
  task,
  toggle,
  choose,
}: {
  task: Shape["TaskLine"];
  toggle: () => void;
  choose: (variant: string) => void;
}) {
  return (
    <li className={task.chosen ? "plan-task plan-task-on" : "plan-task"}>
      <button
        role="checkbox"
        aria-checked={task.chosen}
        aria-label={task.label}
        className="plan-tick"
        onClick={toggle}
      >
        {task.chosen ? "✓" : ""}
      </button>
      <div>
        <b>{task.label}</b> <span className="soft">{task.when}</span>
        {task.chosen && task.variants.length > 1 && (
          <select
            aria-label={`Which capacity, ${task.label}`}
            value={task.variant}
            onChange={(event) => choose(event.target.value)}
          >
            {task.variants.map((variant) => (
              <option key={variant}>{variant}</option>
            ))}
          </select>
        )}
        <span className="soft plan-why">{task.reason.text}</span>
      </div>
    </li>
  );
}

function Tasks({ plan, asked, ask }: { plan: Plan; asked: Asked; ask: (asked: Asked) => void }) {
  const chosen = byHand(plan, asked, {});
  const setTask = (reservoir: string, variant: string | null) => {
    const others = chosen.tasks.filter((task) => task.reservoir !== reservoir);
    ask({ ...chosen, wishes: [], tasks: variant ? [...others, { reservoir, variant }] : others });
  };
  const setCold = (key: string, on: boolean) => {
    const others = asked.cold.filter((one) => one !== key);
    ask(byHand(plan, asked, { cold: on ? [...others, key] : others }));
  };
  return (
    <section aria-label="What to do" className="plan-what">
      <h2>What to do</h2>
      <ul>
        {plan.tasks.map((task) => (
          <Task
            key={task.reservoir}
            task={task}
            toggle={() => setTask(task.reservoir, task.chosen ? null : task.variant)}
            choose={(variant) => setTask(task.reservoir, variant)}
          />
        ))}
        {plan.cold.map((job) => (
          <li key={job.key} className={job.chosen ? "plan-task plan-task-on" : "plan-task"}>
            <button
              role="checkbox"
              aria-checked={job.chosen}
              aria-label={job.label}
              className="plan-tick"
              onClick={() => setCold(job.key, !job.chosen)}
            >
              {job.chosen ? "✓" : ""}
            </button>
            <div>
              <b>{job.label}</b> <span className="soft">{job.minutes} min</span>
            </div>
          </li>
        ))}
      </ul>
      {!asked.proposed && (
        <Button onClick={() => ask({ ...ASKED, technicians: asked.technicians, pans: asked.pans })}>
          Back to what is proposed
        </Button>
      )}
      <p className="soft">
        Over two years: {plan.together.visits} visits and {plan.together.hours} h together, against{" "}
        {plan.alone.visits} visits and {plan.alone.hours} h with each when it is due;{" "}
        {plan.together.litres} l of oil against {plan.alone.litres} l.
      </p>
    </section>
  );
}

function Wishes({ plan, asked, ask }: { plan: Plan; asked: Asked; ask: (asked: Asked) => void }) {
  const name = (id: string) => plan.order?.jobs.find((job) => job.id === id)?.label ?? id;
  if (asked.wishes.length === 0) return null;
  return (
    <ul className="wishes">
      {asked.wishes.map((wish) => (
        <li key={wish.first + wish.then}>
          “{name(wish.first)}” before “{name(wish.then)}”{" "}
          <button
            className="why"
            onClick={() => ask({ ...asked, wishes: asked.wishes.filter((one) => one !== wish) })}
          >
            take back
          </button>
        </li>
      ))}
    </ul>
  );
}

/** The chosen job, and what it could be done before. */
function Chosen({
  jobs,
  id,
  wish,
}: {
  jobs: Shape["JobShape"][];
  id: string;
  wish: (wish: Shape["WishChoiceRequest"]) => void;
}) {
  const job = jobs.find((one) => one.id === id);
  if (!job) {
    return (
      <p className="soft">
        Drag a block to another time, or choose one to say what it comes before.
      </p>
    );
  }
  return (
    <p className="chosen-job">
      <b>{job.label}</b>, {clock(job.start)}–{clock(job.end)}
      {job.attitude && `, bike ${job.attitude}`}. Do it before{" "}
      <select
        aria-label={`Do “${job.label}” before`}
        value=""
        onChange={(event) => wish({ first: job.id, then: event.target.value })}
      >
        <option value="">choose</option>
        {jobs
          .filter((other) => other.id !== id && other.end > other.start)
          .map((other) => (
            <option key={other.id} value={other.id}>
              {other.label}
            </option>
          ))}
      </select>
    </p>
  );
}

function Order({ plan, asked, ask }: { plan: Plan; asked: Asked; ask: (asked: Asked) => void }) {
  const [chosen, setChosen] = useState("");
  const order = plan.order;
  const wish = (one: Shape["WishChoiceRequest"]) =>
    ask(byHand(plan, asked, { wishes: [...asked.wishes, one] }));
  return (
    <section aria-label="In what order" className="plan-order">
      <div className="plan-order-head">
        <h2>In what order</h2>
        <label>
          Technicians{" "}
          <Segmented
            value={asked.technicians}
            options={[1, 2, 3, 4]}
            onChange={(technicians) => ask(byHand(plan, asked, { technicians }))}
          />
        </label>
        <label>
          Pans{" "}
          <Segmented
            value={asked.pans}
            options={[1, 2, 3]}
            onChange={(pans) => ask(byHand(plan, asked, { pans }))}
          />
        </label>
      </div>
      <Refused said={plan.refused} />
      <Wishes plan={plan} asked={asked} ask={ask} />
      {order && (
        <>
          <p className="plan-time">
            <b className="tabular">{clock(order.minutes)}</b> from start to finish,{" "}
            <b className="tabular">{clock(order.hands_on)}</b> hands-on; one thing after another it
            would be <b className="tabular">{clock(order.in_turn)}</b>.{" "}
            {order.proven ? "Nothing shorter exists." : `This is ${order.gap}.`}
          </p>
          <Lanes
            jobs={order.jobs}
            minutes={order.minutes}
            chosen={chosen}
            choose={setChosen}
            wish={wish}
          />
          <Chosen jobs={order.jobs} id={chosen} wish={wish} />
          <ol className="run-list" aria-label="Run sheet">
            {order.jobs
              .filter((job) => job.end > job.start)
              .map((job) => (
                <li key={job.id}>
                  <span className="tabular">{clock(job.start)}</span> {job.label}
                  {asked.technicians > 1 && (
                    <span className="soft"> technician {job.technician + 1}</span>
                  )}
                  {job.free > job.end && (
                    <span className="soft"> then {job.free - job.end} min by itself</span>
                  )}
                </li>
              ))}
          </ol>
          {order.learned.length > 0 && (
            <p className="soft">Learned from finished visits: {order.learned.join("; ")}.</p>
          )}
        </>
      )}
    </section>
  );
}

function Cautions({ said }: { said: string[] }) {
  if (said.length === 0) return null;
  return (
    <section className="plan-cautions" aria-label="Be careful">
      <h2>Be careful</h2>
      <ul>
        {said.map((one) => (
          <li key={one}>{one}</li>
        ))}
      </ul>
      <p className="soft">The manual, local codes and licensed practice come first.</p>
    </section>
  );
}

function Book({ plan, asked }: { plan: Plan; asked: Asked }) {
  const go = useNavigate();
  const book = usePlanVisit();
  const [id] = useState(() => crypto.randomUUID());
  const [on, setOn] = useState("");
  const problem = book.error instanceof Refusal ? book.error.problem : null;
  const said = fieldSentence(problem, "on") || book.error?.message;
  return (
    <form
      className="book"
      onSubmit={(event) => {
        event.preventDefault();
        const body = { id, bike: plan.bike_id, on, version: 0, asked: byHand(plan, asked, {}) };
        book.mutate(body, { onSuccess: () => void go("/calendar") });
      }}
    >
      <label htmlFor="book-on">Plan it for</label>
      <Input id="book-on" type="date" value={on} onChange={(event) => setOn(event.target.value)} />
      <Button type="primary" htmlType="submit" disabled={book.isPending || plan.refused !== ""}>
        Into the calendar
      </Button>
      <Refused said={said} />
    </form>
  );
}

/** What do we do, with what, in what order? */
export function PlanPage({ mayWork }: { mayWork: boolean }) {
  const { id = "" } = useParams();
  const [asked, setAsked] = useState<Asked>(ASKED);
  const found = usePlan(id, asked);
  if (found.isPending) return <Waiting what="Laying it out" />;
  if (found.isError && !found.data) {
    return <WentWrong error={found.error} again={() => void found.refetch()} />;
  }
  const plan = found.data;
  return (
    <>
      <div className="heading">
        <Link to={`/bikes/${id}`} className="back">
          {plan.bike}
        </Link>
        <h1>Plan a visit</h1>
        {found.isError && <Refused said={found.error.message} />}
        {mayWork && <Book plan={plan} asked={asked} />}
      </div>
      <div className="plan">
        <Tasks plan={plan} asked={asked} ask={setAsked} />
        <div>
          <Order plan={plan} asked={asked} ask={setAsked} />
          <Cautions said={plan.cautions} />
          <KitList kit={plan.kit} visit={id} />
        </div>
      </div>
    </>
  );
}
