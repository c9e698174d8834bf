import "./plan.css";
import { Button } from "antd";
import { Link } from "react-router";
import type { Shape } from "../api/client";
import { Refused } from "../workshop/Refused";
import { Waiting, WentWrong } from "../workshop/States";
import { clock, useCalendar, useDrop } from "./plan";

function Visit({ visit, mayWork }: { visit: Shape["PlannedLine"]; mayWork: boolean }) {
  const drop = useDrop();
  return (
    <tr>
      <td className="tabular strong">{visit.on}</td>
      <td>
        <Link to={`/bikes/${visit.bike_id}`}>{visit.bike}</Link>
      </td>
      <td>{visit.what}</td>
      <td className="tabular">{clock(visit.minutes)}</td>
      <td>{visit.planned_by}</td>
      <td className="calendar-tools">
        <a href={`/api/planned-visits/${visit.id}/kit.pdf`} target="_blank" rel="noreferrer">
          Print the kit
        </a>
        {mayWork && (
          <Button size="small" type="text" onClick={() => drop.mutate(visit.id)}>
            Drop it
          </Button>
        )}
        <Refused said={drop.error?.message} />
      </td>
    </tr>
  );
}

/** The visits to come, and what to buy for them. */
export function CalendarPage({ mayWork }: { mayWork: boolean }) {
  const calendar = useCalendar();
  if (calendar.isPending) return <Waiting what="Turning the page" />;
  if (calendar.isError) {
    return <WentWrong error={calendar.error} again={() => void calendar.refetch()} />;
  }
  const { visits, shopping, feed } = calendar.data;
  return (
    <>
      <div className="heading">
        <h1>Calendar</h1>
        <p className="heading-sum">Planned: {visits.length}</p>
        <a className="link-button feed" href={feed}>
          Feed for other calendars
        </a>
      </div>
      {visits.length === 0 ? (
        <p className="state">
          Nothing planned. Open a bike and plan its visit; it comes here with its kit.
        </p>
      ) : (
        <table className="spec models">
          <thead>
            <tr>
              <th scope="col">Day</th>
              <th scope="col">Bike</th>
              <th scope="col">What</th>
              <th scope="col">Takes</th>
              <th scope="col">Planned by</th>
              <th scope="col">
                <span className="hidden">What to do</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {visits.map((visit) => (
              <Visit key={visit.id} visit={visit} mayWork={mayWork} />
            ))}
          </tbody>
        </table>
      )}
      {shopping.length > 0 && (
        <section aria-label="To buy" className="shopping">
          <h2>To buy for these visits</h2>
          <table className="spec">
            <thead>
              <tr>
                <th scope="col">What</th>
                <th scope="col">How much</th>
                <th scope="col">For</th>
                <th scope="col">Parts counter (simulated)</th>
              </tr>
            </thead>
            <tbody>
              {shopping.map((line) => (
                <tr key={line.what}>
                  <td>
                    <b>{line.what}</b>
                  </td>
                  <td className="tabular">{line.amount}</td>
                  <td>{line.for_bikes}</td>
                  <td>{line.available}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </section>
      )}
    </>
  );
}
