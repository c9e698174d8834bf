import "./plan.css";
import { Button } from "antd";
import { useState } from "react";
import { Link } from "react-router";
import type { Shape } from "../api/client";
import { Refused } from "../workshop/Refused";
import { Waiting, WentWrong } from "../workshop/States";
import { clock, useCalendar, useDrop, usePutAway } from "./plan";

type Line = Shape["PlannedLine"];

function Parts({ visit }: { visit: Line }) {
  return (
    <ul className="calendar-parts">
      {visit.parts.map((part) => (
        <li key={part.label} className={part.done ? "part-done" : undefined}>
          {part.done ? (
            <Link to={`/visits/${part.done}`} aria-label={`${part.label}, done`}>
              ✓ {part.label}
            </Link>
          ) : (
            part.label
          )}
        </li>
      ))}
    </ul>
  );
}

const NAMED = 2;

/** The first things that are missing; what there is to buy stands below by name. */
function lacks(missing: string[]): string {
  const rest = missing.length - NAMED;
  return `lacks ${missing.slice(0, NAMED).join(", ")}${rest > 0 ? ` and ${rest} more` : ""}`;
}

/** Taking a visit out asks once; a second tap on the same spot keeps it. */
function Drop({ visit }: { visit: Line }) {
  const drop = useDrop();
  const [asked, setAsked] = useState(false);
  const begun = visit.parts.some((part) => part.done);
  if (!asked) {
    return (
      <Button type="text" onClick={() => setAsked(true)}>
        {begun ? "Close without the rest" : "Drop it"}
      </Button>
    );
  }
  return (
    <>
      <Button autoFocus onClick={() => setAsked(false)}>
        Keep it
      </Button>
      <Button danger loading={drop.isPending} onClick={() => drop.mutate(visit.id)}>
        {begun ? "Yes, close it" : "Yes, drop it"}
      </Button>
      <Refused said={drop.error?.message} />
    </>
  );
}

function Visit({ visit, mayWork }: { visit: Line; mayWork: boolean }) {
  return (
    <tr>
      <td className="tabular strong">
        {visit.day}
        {visit.late && <b className="calendar-late">late</b>}
      </td>
      <td>
        <Link to={`/bikes/${visit.bike_id}`}>{visit.bike}</Link>
      </td>
      <td>
        <Parts visit={visit} />
      </td>
      <td className="tabular">{clock(visit.minutes)}</td>
      <td title={visit.missing.join(", ")}>
        {visit.missing.length > 0 ? lacks(visit.missing) : <span className="soft">all there</span>}
      </td>
      <td>
        <div className="calendar-tools">
          <Link to={`/planned/${visit.id}`} className="link-button">
            Open
          </Link>
          <a
            href={`/api/planned-visits/${visit.id}/kit.pdf`}
            className="link-button"
            target="_blank"
            rel="noreferrer"
          >
            Print the kit
          </a>
          {mayWork && <Drop visit={visit} />}
        </div>
      </td>
    </tr>
  );
}

function Weeks({ weeks, mayWork }: { weeks: Shape["Week"][]; mayWork: boolean }) {
  return (
    <section aria-label="Planned visits" className="shopping">
      <table className="spec calendar">
        <thead>
          <tr>
            <th scope="col">Day</th>
            <th scope="col">Bike</th>
            <th scope="col">What</th>
            <th scope="col">Takes</th>
            <th scope="col">Kit</th>
            <th scope="col">
              <span className="hidden">What to do</span>
            </th>
          </tr>
        </thead>
        {weeks.map((week) => (
          <tbody key={week.label}>
            <tr>
              <th scope="rowgroup" colSpan={6} className="calendar-week">
                {week.label}{" "}
                <span className="soft tabular">
                  {week.visits.length} {week.visits.length === 1 ? "visit" : "visits"},{" "}
                  {clock(week.minutes)} h
                </span>
              </th>
            </tr>
            {week.visits.map((visit) => (
              <Visit key={visit.id} visit={visit} mayWork={mayWork} />
            ))}
          </tbody>
        ))}
      </table>
    </section>
  );
}

/** What has come is put where it belongs with one tap; an arrival keeps its id until it is. */
function CameIn({ line }: { line: Shape["Shopping"] }) {
  const putAway = usePutAway();
  const [act, setAct] = useState(() => crypto.randomUUID());
  const { what, bottles, count } = line;
  const came = { act, what, bottles, count };
  return (
    <>
      <Button
        loading={putAway.isPending}
        aria-label={`${what} has come`}
        onClick={() => putAway.mutate(came, { onSuccess: () => setAct(crypto.randomUUID()) })}
      >
        It has come
      </Button>
      <Refused said={putAway.error?.message} />
    </>
  );
}

function ToBuy({ lines, mayWork }: { lines: Shape["Shopping"][]; mayWork: boolean }) {
  return (
    <section aria-label="To buy" className="shopping">
      <h2>To buy for these visits</h2>
      <table className="spec">
        <thead>
          <tr>
            <th scope="col">What</th>
            <th scope="col">How much</th>
            <th scope="col">For</th>
            <th scope="col">Parts counter (simulated)</th>
            {mayWork && (
              <th scope="col">
                <span className="hidden">Has it come?</span>
              </th>
            )}
          </tr>
        </thead>
        <tbody>
          {lines.map((line) => (
            <tr key={`${line.what} ${line.amount}`}>
              <td>
                <b>{line.what}</b>
              </td>
              <td className="tabular">{line.amount}</td>
              <td>{line.for_bikes}</td>
              <td>{line.available}</td>
              {mayWork && (
                <td className="shopping-came">
                  <CameIn line={line} />
                </td>
              )}
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

/** The visits to come, and what to buy for them. */
export function CalendarPage({ mayWork }: { mayWork: boolean }) {
  const calendar = useCalendar();
  if (calendar.isPending) return <Waiting what="Turning the page" />;
  if (calendar.isError) {
    return <WentWrong error={calendar.error} again={() => void calendar.refetch()} />;
  }
  const { count, weeks, shopping, feed } = calendar.data;
  return (
    <>
      <div className="heading">
        <h1>Calendar</h1>
        <p className="heading-sum">Planned: {count}</p>
        <a className="link-button feed" href={feed}>
          Feed for other calendars
        </a>
      </div>
      {count === 0 ? (
        <p className="state">
          Nothing planned. Open a bike and plan its visit; it comes here with its kit.
        </p>
      ) : (
        <Weeks weeks={weeks} mayWork={mayWork} />
      )}
      {shopping.length > 0 && <ToBuy lines={shopping} mayWork={mayWork} />}
    </>
  );
}
