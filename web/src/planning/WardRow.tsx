import { clsx } from "clsx";
import { Tag } from "antd";
import { Link } from "react-router";
import type { Shape } from "../api/client";
import { PlugTip } from "../glass/PlugTip";
import { SightGlass } from "../glass/SightGlass";
import { Countdown } from "../visits/Countdown";
import { momentWords } from "../ui/days";
import { ASKS, PlanLink, PlannedLink } from "./NextSteps";
import textCss from "../ui/text.module.css";
import wardCss from "./ward.module.css";

type Bike = Shape["WardBike"];
type Glass = Shape["Glass"];

const said = (glass: Glass) =>
  `${glass.label}: ${glass.when}${glass.forecast ? `, expected ${glass.forecast}` : ""}`;

/** A glass, and beside it the last plug. */
export function GlassDrawings({ glass, size = 50 }: { glass: Glass; size?: number }) {
  const { level, age, state, notch, plug } = glass;
  const drawn = { level, age, state, notch, size, label: said(glass) };
  return (
    <div className={wardCss.cellDrawings}>
      <SightGlass {...drawn} />
      {plug && (
        <PlugTip
          parts={plug.parts}
          level={plug.level}
          size={size / 2 - 1}
          label={`Last plug: ${plug.level}`}
        />
      )}
    </div>
  );
}

/** Glasses of one column; two fork legs stand side by side as one, the worse one speaks. */
function Column({ name, glasses }: { name: string; glasses: Glass[] }) {
  const worst = [...glasses].sort((a, b) => a.level - b.level)[0];
  return (
    <td data-column={worst ? name : undefined}>
      {worst && (
        <div className={wardCss[`cell-${worst.state}`]} title={said(worst)}>
          <GlassDrawings glass={worst} />
          <span className={wardCss.cellWhen}>{worst.when}</span>
        </div>
      )}
    </td>
  );
}

/** What a bike's newest findings ask for. */
export function Asks({ bike, asks }: { bike: string; asks: Shape["Ask"][] }) {
  return asks.map((ask) => (
    <Link
      key={ask.reservoir}
      to={`/bikes/${bike}/wear/${encodeURIComponent(ask.reservoir)}`}
      title={ask.action}
      className={wardCss.askLink}
    >
      <Tag color={ASKS[ask.level]} className={wardCss.askTag}>
        {ask.label}: {ask.level}
      </Tag>
    </Link>
  ));
}

/** What of a bike is with a specialist, or back and not fitted. */
export function OutOfIt({ bike }: { bike: Bike }) {
  return bike.away.map((one) => (
    <Link
      key={one.reservoir}
      to={`/bikes/${bike.id}?reservoir=${encodeURIComponent(one.reservoir)}`}
      className={clsx(wardCss.rowAway, one.overdue && wardCss.rowLate)}
    >
      {one.text}
    </Link>
  ));
}

/** The one thing to do next with a bike; its name leads to everything else. */
export function Action({ bike, now }: { bike: Bike; now: () => number }) {
  const { visit, planned } = bike;
  if (visit) {
    return (
      <>
        <Link to={`/visits/${visit.id}`} className={clsx(textCss.linkButton, wardCss.rowGoOn)}>
          Go on
        </Link>
        <span className={wardCss.rowStep}>
          {visit.reservoir}: {visit.step}
          {visit.since && `, since ${momentWords(visit.since)} `}
          {visit.ends_at && <Countdown endsAt={visit.ends_at} now={now} />}
        </span>
      </>
    );
  }
  return planned ? <PlannedLink planned={planned} /> : <PlanLink bike={bike.id} />;
}

/** A bike as a row of glasses in the ward's columns. */
export function BikeRow({
  bike,
  columns,
  now,
}: {
  bike: Bike;
  columns: string[];
  now: () => number;
}) {
  return (
    <tr className={clsx(wardCss.row, bike.visit && wardCss.rowOpen)}>
      <th scope="row">
        <Link to={`/bikes/${bike.id}`} className={wardCss.rowName}>
          {bike.name}
        </Link>
        <span className={textCss.soft}>{bike.model}</span>
        <span className={clsx(textCss.soft, textCss.tabular)}>{bike.odometer}</span>
        {bike.hold && <b className={wardCss.rowHold}>On hold. {bike.hold}</b>}
        <OutOfIt bike={bike} />
        <Asks bike={bike.id} asks={bike.asks.filter((ask) => ask.level !== "hold")} />
      </th>
      {columns.map((column) => (
        <Column
          key={column}
          name={column}
          glasses={bike.glasses.filter((glass) => glass.column === column)}
        />
      ))}
      <td className={wardCss.rowAction}>
        <Action bike={bike} now={now} />
      </td>
    </tr>
  );
}
