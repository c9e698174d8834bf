import { Segmented } from "antd";
import { useState } from "react";
import type { Shape } from "../api/client";
import { Choice } from "../ui/Choice";
import { Chips, toggled } from "../ui/Chips";
import { Refused } from "../ui/Refused";
import { WideDrawing } from "../ui/WideDrawing";
import { Lanes } from "./Lanes";
import { clock } from "./clock";
import { byHand, type Asked, type Plan } from "./plan";
import planCss from "./plan.module.css";
import textCss from "../ui/text.module.css";
import whyCss from "../ui/why.module.css";

type Job = Shape["JobShape"];

function Wishes({ plan, asked, ask }: { plan: Plan; asked: Asked; ask: (asked: Asked) => void }) {
  const name = (id: string) => plan.order?.jobs.find((job) => job.id === id)?.label ?? id;
  if (asked.wishes.length === 0) return null;
  return (
    <ul className={planCss.wishes}>
      {asked.wishes.map((wish) => (
        <li key={wish.first + wish.then}>
          “{name(wish.first)}” before “{name(wish.then)}”{" "}
          <button
            className={whyCss.why}
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
  jobs: Job[];
  id: string;
  wish: (wish: Shape["WishChoiceRequest"]) => void;
}) {
  const job = jobs.find((one) => one.id === id);
  if (!job) {
    return (
      <p className={textCss.soft}>
        Drag a block to another time, or choose one to say what it comes before.
      </p>
    );
  }
  return (
    <p className={planCss.chosenJob}>
      <b>{job.label}</b>, {clock(job.start)}–{clock(job.end)}
      {job.attitude && `, bike ${job.attitude}`}. Do it before{" "}
      <Choice
        aria-label={`Do “${job.label}” before`}
        value=""
        options={jobs
          .filter((other) => other.id !== id && other.end > other.start)
          .map((other) => ({ value: other.id, label: other.label }))}
        onChange={(then) => wish({ first: job.id, then })}
      />
    </p>
  );
}

/** The run sheet as a list, with what to be careful of at each job. */
function RunList({ jobs, technicians }: { jobs: Job[]; technicians: number }) {
  return (
    <ol className={planCss.runList} aria-label="Run sheet">
      {jobs
        .filter((job) => job.end > job.start)
        .map((job) => (
          <li key={job.id}>
            <span className={textCss.tabular}>{clock(job.start)}</span> {job.label}
            {technicians > 1 && (
              <span className={textCss.soft}> technician {job.technician + 1}</span>
            )}
            {job.free > job.end && (
              <span className={textCss.soft}> then {job.free - job.end} min by itself</span>
            )}
            {job.cautions.map((caution) => (
              <span key={caution} className={planCss.runCaution}>
                {caution}
              </span>
            ))}
          </li>
        ))}
    </ol>
  );
}

type Ordered = NonNullable<Plan["order"]>;

function Hands({ plan, asked, ask }: { plan: Plan; asked: Asked; ask: (asked: Asked) => void }) {
  return (
    <div className={planCss.planOrderHead}>
      <h2>In what order</h2>
      <label>
        Technicians{" "}
        <Segmented
          value={plan.technicians}
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
      <Chips
        label="Who"
        words={plan.people.map(({ id, name }) => ({ code: id, words: name }))}
        on={asked.hands}
        toggle={(who) => ask(byHand(plan, asked, { hands: toggled(asked.hands, who) }))}
      />
    </div>
  );
}

function Time({ order }: { order: Ordered }) {
  return (
    <p className={planCss.planTime}>
      <b className={textCss.tabular}>{clock(order.minutes)}</b> from start to finish,{" "}
      <b className={textCss.tabular}>{clock(order.hands_on)}</b> hands-on; one thing after another
      it would be <b className={textCss.tabular}>{clock(order.in_turn)}</b>.{" "}
      {order.proven ? "Nothing shorter exists." : `This is ${order.gap}.`}
    </p>
  );
}

/** The jobs in their order: lanes to drag in, and the run sheet as a list. */
export function Order({
  plan,
  asked,
  ask,
}: {
  plan: Plan;
  asked: Asked;
  ask: (asked: Asked) => void;
}) {
  const [chosen, setChosen] = useState("");
  const { order, refused } = plan;
  const wish = (one: Shape["WishChoiceRequest"]) => {
    const others = asked.wishes.filter((w) => w.first !== one.first || w.then !== one.then);
    ask(byHand(plan, asked, { wishes: [...others, one] }));
  };
  const labels = Object.fromEntries(plan.tasks.map((task) => [task.reservoir, task.label]));
  return (
    <section aria-label="In what order" className={planCss.planOrder}>
      <Hands plan={plan} asked={asked} ask={ask} />
      <Refused said={refused && order ? `${refused} Below is the order without it.` : refused} />
      <Wishes plan={plan} asked={asked} ask={ask} />
      {order && (
        <>
          <Time order={order} />
          <WideDrawing>
            <Lanes
              jobs={order.jobs}
              labels={labels}
              minutes={order.minutes}
              chosen={chosen}
              choose={setChosen}
              wish={wish}
            />
          </WideDrawing>
          <Chosen jobs={order.jobs} id={chosen} wish={wish} />
          <RunList jobs={order.jobs} technicians={plan.technicians} />
          {order.learned.length > 0 && (
            <p className={textCss.soft}>
              Learned from finished visits: {order.learned.join("; ")}.
            </p>
          )}
        </>
      )}
    </section>
  );
}
