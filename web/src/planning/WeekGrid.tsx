import { clsx } from "clsx";
import { Link } from "react-router";
import type { Shape } from "../api/client";
import { clock } from "./clock";
import weekCss from "./week.module.css";
import textCss from "../ui/text.module.css";

type Week = Shape["Week"];
type Lane = Shape["WeekLane"];

/** Somebody's day: the bikes they have, and the hours that makes. */
function Day({ day, bikes }: { day: Lane["days"][number]; bikes: Map<string, string> }) {
  return (
    <td className={day.visits.length > 0 ? weekCss.taken : undefined}>
      {day.visits.map((id) => (
        <Link key={id} to={`/planned/${id}`} className={weekCss.booked}>
          {bikes.get(id)}
        </Link>
      ))}
      {day.visits.length > 0 && (
        <span className={clsx(textCss.tabular, day.full && weekCss.full)}>
          {clock(day.minutes)} h{day.full && ", more than a day"}
        </span>
      )}
    </td>
  );
}

/** A week by people and hours: who has which bike on which day, and who has room. */
export function WeekGrid({ week }: { week: Week }) {
  const bikes = new Map(week.visits.map(({ id, bike }) => [id, bike]));
  return (
    <table className={weekCss.week} aria-label={`${week.label}, by people and hours`}>
      <thead>
        <tr>
          <th scope="col">
            <span className={textCss.hidden}>Who</span>
          </th>
          {week.days.map((day) => (
            <th key={day.on} scope="col" className={day.today ? weekCss.today : undefined}>
              {day.label}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {week.lanes.map((lane) => (
          <tr key={lane.person}>
            <th scope="row">
              {lane.name || "Nobody yet"}
              <span className={clsx(textCss.soft, textCss.tabular)}>
                {lane.minutes > 0 ? `${clock(lane.minutes)} h` : "free"}
              </span>
            </th>
            {lane.days.map((day, nth) => (
              <Day key={week.days[nth]?.on} day={day} bikes={bikes} />
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
