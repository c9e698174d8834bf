import { clsx } from "clsx";
import { Button, Table, Tag, type TableColumnsType } from "antd";
import { useState } from "react";
import { Link } from "react-router";
import type { Shape } from "../api/client";
import { Refused } from "../ui/Refused";
import { Waiting, WentWrong } from "../ui/States";
import { clock } from "./clock";
import { useCalendar, useDrop, usePutAway } from "./plan";
import { WeekGrid } from "./WeekGrid";
import listsCss from "../ui/lists.module.css";
import pageCss from "../ui/page.module.css";
import planCss from "./plan.module.css";
import statesCss from "../ui/states.module.css";
import textCss from "../ui/text.module.css";

type Line = Shape["PlannedLine"];

function Parts({ visit }: { visit: Line }) {
  return (
    <ul className={planCss.calendarParts}>
      {visit.parts.map((part) => (
        <li key={part.label}>
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

function Tools({ visit, mayWork }: { visit: Line; mayWork: boolean }) {
  return (
    <div className={planCss.calendarTools}>
      <Link to={`/planned/${visit.id}`} className={textCss.linkButton}>
        Open
      </Link>
      <a
        href={`/api/planned-visits/${visit.id}/kit.pdf`}
        className={textCss.linkButton}
        target="_blank"
        rel="noreferrer"
      >
        Print the kit
      </a>
      {mayWork && <Drop visit={visit} />}
    </div>
  );
}

function columns(mayWork: boolean): TableColumnsType<Line> {
  return [
    {
      title: "Day",
      className: clsx(textCss.tabular, textCss.strong, planCss.calendarDay),
      render: (_, visit) => (
        <>
          {visit.day} {visit.late && <Tag color="error">late</Tag>}
        </>
      ),
    },
    {
      title: "Bike",
      render: (_, visit) => (
        <Link className={textCss.tallLink} to={`/bikes/${visit.bike_id}`}>
          {visit.bike}
        </Link>
      ),
    },
    { title: "What", render: (_, visit) => <Parts visit={visit} /> },
    {
      title: "Takes",
      render: (_, visit) => (
        <>
          <span className={textCss.tabular}>{clock(visit.minutes)}</span>
          {visit.hands && (
            <>
              <br />
              {visit.hands}
            </>
          )}
        </>
      ),
    },
    {
      title: "Kit",
      render: (_, visit) =>
        visit.missing.length > 0 ? (
          <span title={visit.missing.join(", ")}>{lacks(visit.missing)}</span>
        ) : (
          <span className={textCss.soft}>all there</span>
        ),
    },
    {
      title: <span className={textCss.hidden}>What to do</span>,
      render: (_, visit) => <Tools visit={visit} mayWork={mayWork} />,
    },
  ];
}

function Weeks({ weeks, mayWork }: { weeks: Shape["Week"][]; mayWork: boolean }) {
  return (
    <section aria-label="Planned visits" className={planCss.shopping}>
      {weeks.map((week) => (
        <div key={week.label}>
          <h2 className={planCss.calendarWeek}>
            {week.label}{" "}
            <span className={clsx(textCss.soft, textCss.tabular)}>
              {week.visits.length} {week.visits.length === 1 ? "visit" : "visits"},{" "}
              {clock(week.minutes)} h
            </span>
          </h2>
          <WeekGrid week={week} />
          <Table<Line>
            className={clsx(listsCss.lists, listsCss.cardsOnPhone)}
            columns={columns(mayWork)}
            dataSource={week.visits}
            rowKey="id"
            pagination={false}
          />
        </div>
      ))}
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

function toBuy(mayWork: boolean): TableColumnsType<Shape["Shopping"]> {
  const came: TableColumnsType<Shape["Shopping"]> = mayWork
    ? [
        {
          title: <span className={textCss.hidden}>Has it come?</span>,
          className: planCss.shoppingCame,
          // what no label here fits comes onto the shelf as a fluid of its own
          render: (_, line) =>
            line.count > 0 || line.bottles.length > 0 ? <CameIn line={line} /> : null,
        },
      ]
    : [];
  return [
    { title: "What", dataIndex: "what", render: (what: string) => <b>{what}</b> },
    { title: "How much", dataIndex: "amount", className: textCss.tabular },
    { title: "For", dataIndex: "for_bikes" },
    { title: "Parts counter (simulated)", dataIndex: "available" },
    ...came,
  ];
}

function ToBuy({ lines, mayWork }: { lines: Shape["Shopping"][]; mayWork: boolean }) {
  return (
    <section aria-label="To buy" className={planCss.shopping}>
      <h2>To buy for these visits</h2>
      <Table<Shape["Shopping"]>
        className={clsx(listsCss.lists, listsCss.cardsOnPhone)}
        columns={toBuy(mayWork)}
        dataSource={lines}
        rowKey={(line) => `${line.what} ${line.amount}`}
        pagination={false}
      />
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
      <div className={pageCss.heading}>
        <h1>Calendar</h1>
        <p className={pageCss.headingSum}>Planned: {count}</p>
        <a className={clsx(textCss.linkButton, planCss.feed)} href={feed}>
          Feed for other calendars
        </a>
      </div>
      {count === 0 ? (
        <p className={statesCss.state}>
          Nothing planned. Open a bike and plan its visit; it comes here with its kit.
        </p>
      ) : (
        <Weeks weeks={weeks} mayWork={mayWork} />
      )}
      {shopping.length > 0 && <ToBuy lines={shopping} mayWork={mayWork} />}
    </>
  );
}
