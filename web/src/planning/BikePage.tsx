import { clsx } from "clsx";
import { Tag } from "antd";
import { useState } from "react";
import { Link, useParams, useSearchParams } from "react-router";
import type { Shape } from "../api/client";
import { useBike } from "../api/hooks";
import { SightGlass } from "../glass/SightGlass";
import { StartVisit } from "../visits/StartVisit";
import { Doors } from "../workshop/Doors";
import { NotThere, Waiting } from "../ui/States";
import { BikeCard } from "./BikeCard";
import { ASKS, PlanLink, PlannedLink } from "./NextSteps";
import { ReservoirPanel } from "./ReservoirPanel";
import bikeCss from "./bike.module.css";
import listsCss from "../ui/lists.module.css";
import pageCss from "../ui/page.module.css";
import textCss from "../ui/text.module.css";
import verdictCss from "../ui/verdict.module.css";
import wardCss from "./ward.module.css";

type Page = Shape["BikePage"];
const CARD = "the bike";

function Sheet({ page }: { page: Page }) {
  return (
    <span className={clsx(textCss.soft, bikeCss.tankSheet)}>
      {page.sheet_version ? (
        <Link className={textCss.tallLink} to={`/sheets/${page.sheet_id}`}>
          Spec sheet version {page.sheet_version}, approved by {page.sheet_approved_by}
        </Link>
      ) : (
        "No approved spec sheet"
      )}
      <br />
      The bike&apos;s own service manual comes first.
    </span>
  );
}

/** The one thing to do next: go on, open what is planned, or plan. */
function Next({ page }: { page: Page }) {
  const { visit, planned } = page;
  if (visit) {
    return (
      <Link to={`/visits/${visit.id}`} className={clsx(textCss.linkButton, wardCss.rowGoOn)}>
        Go on: {visit.step}
      </Link>
    );
  }
  return (
    <>
      {planned && <PlannedLink planned={planned} />}
      {page.sheet_id > 0 && <PlanLink bike={page.id} />}
    </>
  );
}

function Heading({ page }: { page: Page }) {
  return (
    <div className={clsx(pageCss.heading, bikeCss.bikeHeading)}>
      <Link to="/" className={pageCss.back}>
        Ward
      </Link>
      <h1>{page.name}</h1>
      <p className={pageCss.headingSum}>
        {page.archived && <b>archived · </b>}
        {page.plate && <b className={bikeCss.plateSign}>{page.plate}</b>} {page.model} ·{" "}
        {page.layout} · {page.displacement} · <b className={textCss.tabular}>{page.odometer}</b>
      </p>
      <div className={bikeCss.tools}>
        <Sheet page={page} />
        <Next page={page} />
      </div>
    </div>
  );
}

/** What the newest findings of the bike ask for, each leading to its plug. */
function Asking({ asks, show }: { asks: Shape["Ask"][]; show: (reservoir: string) => void }) {
  if (asks.length === 0) return null;
  return (
    <ul className={verdictCss.asking} aria-label="What findings ask for">
      {asks.map((ask) => (
        <li key={ask.reservoir}>
          <button
            className={clsx(verdictCss.askingRow, verdictCss[`verdict-${ask.level}`])}
            onClick={() => show(ask.reservoir)}
          >
            <Tag color={ASKS[ask.level]}>{ask.level}</Tag>
            <b>{ask.label}</b> {ask.action}
          </button>
        </li>
      ))}
    </ul>
  );
}

function doors(page: Page) {
  const tanks = page.reservoirs.map(({ glass }) => ({
    key: glass.key,
    label: (
      <span className={bikeCss.tank}>
        <SightGlass level={glass.level} age={glass.age} state={glass.state} size={28} />
        {glass.label}
      </span>
    ),
  }));
  return [{ key: CARD, label: <span className={bikeCss.tank}>The bike</span> }, ...tanks];
}

function Opened({ page, mayWork }: { page: Page; mayWork: boolean }) {
  const [asked] = useSearchParams();
  const [chosen, setChosen] = useState<string | null>(asked.get("reservoir"));
  const [starting, setStarting] = useState(false);
  const shown = page.reservoirs.find((r) => r.glass.key === chosen) ?? page.reservoirs[0];
  const card = chosen === CARD || !shown;
  return (
    <>
      <Heading page={page} />
      <Asking asks={page.asks} show={setChosen} />
      <Doors
        className={listsCss.tanks}
        doors={doors(page)}
        open={card ? CARD : shown.glass.key}
        go={setChosen}
      />
      {card ? (
        <BikeCard page={page} mayWork={mayWork} />
      ) : (
        <ReservoirPanel
          key={shown.glass.key}
          bike={page}
          reservoir={shown}
          mayWork={mayWork}
          start={mayWork && !page.visit && !page.archived ? () => setStarting(true) : null}
        />
      )}
      {shown && starting && (
        <StartVisit
          bike={page}
          title={`Service the ${shown.glass.label}`}
          chosen={[{ reservoir: shown.glass.key, variant: shown.variants[0] ?? "" }]}
          close={() => setStarting(false)}
        />
      )}
    </>
  );
}

/** What is this bike, and how is it doing? */
export function BikePage({ mayWork }: { mayWork: boolean }) {
  const { id = "" } = useParams();
  const bike = useBike(id);
  if (bike.isPending) return <Waiting what="Rolling it in" />;
  if (bike.isError) return <NotThere error={bike.error} again={() => void bike.refetch()} />;
  return <Opened key={id} page={bike.data} mayWork={mayWork} />;
}
