import { clsx } from "clsx";
import type { TableColumnsType } from "antd";
import { Chart, type Axis, type History } from "./Chart";
import textCss from "../ui/text.module.css";
import wearCss from "./wear.module.css";

interface Event {
  key: string;
  lane: string;
  on: string;
  at: string;
  km: number;
  words: string;
}

/** What happened and who read, each in its lane: what was done first, then the eyes. */
function lanes(history: History): [string, Event[]][] {
  const events = [
    ...history.marks,
    ...history.points.map((point) => ({ ...point, lane: `Read: ${point.by}`, words: point.level })),
  ].map((event, index) => ({ ...event, key: String(index) }));
  return [...new Set(events.map(({ lane }) => lane))].map((lane) => [
    lane,
    events.filter((event) => event.lane === lane),
  ]);
}

const COLUMNS: TableColumnsType<Event> = [
  { title: "What", dataIndex: "lane" },
  { title: "When", dataIndex: "on", className: textCss.tabular },
  { title: "At", dataIndex: "at", className: textCss.tabular },
  { title: "In words", dataIndex: "words" },
];

/** What else happened on the same distance: oil, parts, repairs, and whose eyes read the plug. */
export function HappenedOver({ history, axis }: { history: History; axis: Axis }) {
  const shown = lanes(history);
  const at = (km: number) => `${((km - axis.from) / (axis.to - axis.from)) * 100}%`;
  return (
    <Chart
      title="What was done, and who read"
      columns={COLUMNS}
      rows={shown.flatMap(([, of]) => of)}
    >
      <div className={wearCss.lanes}>
        {shown.map(([lane, events]) => (
          <div
            key={lane}
            className={clsx(wearCss.lane, lane.startsWith("Read") && wearCss.laneRead)}
          >
            <span>{lane}</span>
            <div>
              {events.map(({ key, km }) => (
                <i key={key} style={{ left: at(km) }} />
              ))}
            </div>
          </div>
        ))}
      </div>
    </Chart>
  );
}
