import { clsx } from "clsx";
import { Fragment } from "react";
import { Link } from "react-router";
import type { Shape } from "../api/client";
import { Action, Asks, GlassDrawings, OutOfIt } from "./WardRow";
import textCss from "../ui/text.module.css";
import wardCss from "./ward.module.css";

type Bike = Shape["WardBike"];

/** In which states a reservoir needs somebody. */
const NEEDS: Record<Shape["DueState"], boolean> = {
  due: true,
  baseline: true,
  soon: true,
  fine: false,
  "no interval": false,
};

function Rest({ count }: { count: number }) {
  if (count === 0) return null;
  return (
    <p className={textCss.soft}>
      {count} {count === 1 ? "reservoir" : "reservoirs"} fine
    </p>
  );
}

function Todo({ bike, now }: { bike: Bike; now: () => number }) {
  const needing = bike.glasses
    .filter((glass) => NEEDS[glass.state])
    .sort((a, b) => a.level - b.level);
  return (
    <li className={clsx(wardCss.todo, bike.visit && wardCss.rowOpen)}>
      <div className={wardCss.todoHead}>
        <Link to={`/bikes/${bike.id}`} className={wardCss.todoName}>
          {bike.name}
        </Link>
        <span className={clsx(textCss.soft, textCss.tabular)}>{bike.odometer}</span>
      </div>
      {bike.hold && <b className={wardCss.rowHold}>On hold. {bike.hold}</b>}
      <OutOfIt bike={bike} />
      <Asks bike={bike.id} asks={bike.asks.filter((ask) => ask.level !== "hold")} />
      {needing.length > 0 && (
        <ul className={wardCss.todoGlasses}>
          {needing.map((glass) => (
            <li key={glass.key} className={wardCss[`cell-${glass.state}`]}>
              <GlassDrawings glass={glass} size={40} />
              <span>
                <b>{glass.label}</b>
                <span className={wardCss.cellWhen}>{glass.when}</span>
              </span>
            </li>
          ))}
        </ul>
      )}
      <Rest count={bike.glasses.length - needing.length} />
      <div className={wardCss.rowAction}>
        <Action bike={bike} now={now} />
      </div>
    </li>
  );
}

/** The ward on a phone: bike by bike, only what needs doing. */
export function WardList({
  ward,
  now,
  group,
}: {
  ward: Shape["Ward"];
  now: () => number;
  group: string;
}) {
  return (
    <ul className={wardCss.todos} aria-label="What needs doing">
      {ward.bikes.map((bike, index) => (
        <Fragment key={bike.id}>
          {group === "use" && bike.use_class !== ward.bikes[index - 1]?.use_class && (
            <li className={wardCss.todoGroup}>{bike.use_class}</li>
          )}
          <Todo bike={bike} now={now} />
        </Fragment>
      ))}
    </ul>
  );
}
