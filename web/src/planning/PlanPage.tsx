import { App, Button } from "antd";
import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { fieldSentence, problemOf, type Shape } from "../api/client";
import { Day } from "../ui/Day";
import { dayWords } from "../ui/days";
import { Refused } from "../ui/Refused";
import { NotThere, Waiting, WentWrong } from "../ui/States";
import { KitList } from "./KitList";
import { Order } from "./PlanOrder";
import { Tasks } from "./PlanTasks";
import { StartPlanned } from "./StartPlanned";
import { Asks } from "./WardRow";
import { ASKED, byHand, useBooked, usePlan, usePlanVisit, type Asked, type Plan } from "./plan";
import pageCss from "../ui/page.module.css";
import planCss from "./plan.module.css";
import statesCss from "../ui/states.module.css";
import textCss from "../ui/text.module.css";

type Line = Shape["PlannedLine"];

function Cautions({ said }: { said: string[] }) {
  if (said.length === 0) return null;
  return (
    <section className={planCss.planCautions} aria-label="Be careful">
      <h2>Be careful</h2>
      <ul>
        {said.map((one) => (
          <li key={one}>{one}</li>
        ))}
      </ul>
      <p className={textCss.soft}>The manual, local codes and licensed practice come first.</p>
    </section>
  );
}

/** Putting the visit into the calendar, or changing it there. */
function Book({
  plan,
  asked,
  ask,
  line,
  changed,
}: {
  plan: Plan;
  asked: Asked;
  ask: (asked: Asked) => void;
  line?: Line;
  changed: boolean;
}) {
  const go = useNavigate();
  const { message } = App.useApp();
  const book = usePlanVisit();
  const [stood] = useState(() => line ?? { id: crypto.randomUUID(), version: 0 });
  const on = asked.on ?? plan.day;
  const problem = problemOf(book.error);
  const said = fieldSentence(problem, "on") || book.error?.message;
  return (
    <form
      className={planCss.book}
      onSubmit={(event) => {
        event.preventDefault();
        const { id, version } = stood;
        const body = { id, bike: plan.bike_id, on, version, asked: byHand(plan, asked, {}) };
        book.mutate(body, {
          onSuccess: () => {
            void message.success(`${plan.bike} stands in the calendar for ${dayWords(on)}.`);
            void go("/calendar");
          },
        });
      }}
    >
      <label htmlFor="book-on">{line ? "Planned for" : "Plan it for"}</label>
      <Day id="book-on" value={on} onChange={(day) => ask({ ...asked, on: day })} />
      <Button htmlType="submit" disabled={book.isPending || plan.refused !== "" || !changed}>
        {line ? "Keep the change" : "Into the calendar"}
      </Button>
      <Refused said={said} />
    </form>
  );
}

/** What else is planned for this bike, and the visit it is in the shop for. */
function Beside({ plan }: { plan: Plan }) {
  if (!plan.visit && plan.planned.length === 0) return null;
  return (
    <p className={planCss.planBeside}>
      {plan.visit && (
        <Link to={`/visits/${plan.visit.id}`} className={textCss.linkButton}>
          On the bench: {plan.visit.reservoir}. Go on: {plan.visit.step}
        </Link>
      )}
      {plan.planned.map((line) => (
        <Link key={line.id} to={`/planned/${line.id}`} className={textCss.linkButton}>
          Already planned for {line.day}: {line.parts.map((part) => part.label).join(", ")}
        </Link>
      ))}
    </p>
  );
}

function Title({ plan, line }: { plan: Plan; line?: Line }) {
  return (
    <>
      <Link to={line ? "/calendar" : `/bikes/${plan.bike_id}`} className={pageCss.back}>
        {line ? "Calendar" : plan.bike}
      </Link>
      <h1>{line ? `${plan.bike}, ${line.day}` : "Plan a visit"}</h1>
    </>
  );
}

function Laid({
  bike,
  first,
  line,
  mayWork,
}: {
  bike: string;
  first: Asked;
  line?: Line;
  mayWork: boolean;
}) {
  const [stood] = useState(first);
  const [asked, setAsked] = useState<Asked>(stood);
  const found = usePlan(bike, asked);
  if (found.isPending) return <Waiting what="Laying it out" />;
  if (found.isError && !found.data) {
    return <WentWrong error={found.error} again={() => void found.refetch()} />;
  }
  const plan = found.data;
  return (
    <>
      <div className={pageCss.heading}>
        <Title plan={plan} line={line} />
        {found.isError && <Refused said={found.error.message} />}
        {mayWork && <StartPlanned plan={plan} asked={asked} />}
        {mayWork && (
          <Book
            plan={plan}
            asked={asked}
            ask={setAsked}
            line={line}
            changed={!line || asked !== stood}
          />
        )}
      </div>
      <Beside plan={plan} />
      {plan.asks.length > 0 && (
        <p className={planCss.planAsks}>
          Findings ask for: <Asks bike={plan.bike_id} asks={plan.asks} />
        </p>
      )}
      <div className={planCss.plan}>
        <Tasks plan={plan} asked={asked} ask={setAsked} />
        <div>
          <Order plan={plan} asked={asked} ask={setAsked} />
          <Cautions said={plan.cautions} />
          <KitList kit={plan.kit} visit={line?.id ?? bike} />
        </div>
      </div>
    </>
  );
}

/** What do we do, with what, in what order? */
export function PlanPage({ mayWork }: { mayWork: boolean }) {
  const { id = "" } = useParams();
  return <Laid key={id} bike={id} first={ASKED} mayWork={mayWork} />;
}

/** A visit that stands in the calendar: its plan, and where the work starts from. */
export function PlannedPage({ mayWork }: { mayWork: boolean }) {
  const { id = "" } = useParams();
  const booked = useBooked(id);
  if (booked.isPending) return <Waiting what="Turning to it" />;
  if (booked.isError) {
    return <NotThere error={booked.error} again={() => void booked.refetch()} />;
  }
  const { line, state, asked } = booked.data;
  if (state !== "planned") {
    return (
      <div className={statesCss.state}>
        <h2>
          {line.bike}, {line.day}: {state}
        </h2>
        <p>
          <Link to={`/bikes/${line.bike_id}`}>See the bike</Link> ·{" "}
          <Link to="/calendar">Back to the calendar</Link>
        </p>
      </div>
    );
  }
  return (
    <Laid
      key={`${id} ${line.version}`}
      bike={line.bike_id}
      first={{ ...ASKED, ...asked }}
      line={line}
      mayWork={mayWork}
    />
  );
}
