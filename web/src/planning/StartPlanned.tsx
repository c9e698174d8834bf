import { Button } from "antd";
import { useState } from "react";
import { useBike } from "../api/hooks";
import { StartVisit } from "../visits/StartVisit";
import { byHand, type Asked, type Plan } from "./plan";
import planCss from "./plan.module.css";

/** What is still to be done of a plan, as chosen by now, as the bench takes it. */
function left(plan: Plan, asked: Asked) {
  const open = plan.tasks.filter((task) => !task.done && !task.not_serviceable);
  return byHand(plan, asked, {}).tasks.filter(({ reservoir }) =>
    open.some((task) => task.reservoir === reservoir),
  );
}

/** The jobs in the order of the plan; none while the plan has not followed what is chosen. */
function inOrder(plan: Plan, chosen: { reservoir: string }[]): string[] {
  const planned = plan.tasks.filter((task) => task.chosen && !task.done && !task.not_serviceable);
  const same =
    planned.length === chosen.length &&
    planned.every((task) => chosen.some((one) => one.reservoir === task.reservoir));
  const jobs = same ? (plan.order?.jobs ?? []) : [];
  return [...jobs].sort((a, b) => a.start - b.start || a.end - b.end).map((job) => job.id);
}

/** One press from the plan to the bench, with everything chosen in it. */
export function StartPlanned({ plan, asked }: { plan: Plan; asked: Asked }) {
  const [starting, setStarting] = useState(false);
  const bike = useBike(plan.bike_id);
  const tasks = left(plan, asked);
  if (tasks.length === 0 || plan.visit) return null;
  return (
    <>
      <Button type="primary" className={planCss.startPlanned} onClick={() => setStarting(true)}>
        Start this visit
      </Button>
      {starting && bike.data && (
        <StartVisit
          bike={bike.data}
          title={`${plan.bike}: ${tasks.length === 1 ? "one reservoir" : `${tasks.length} reservoirs`}`}
          chosen={tasks}
          cold={asked.cold}
          order={inOrder(plan, tasks)}
          close={() => setStarting(false)}
        />
      )}
    </>
  );
}
