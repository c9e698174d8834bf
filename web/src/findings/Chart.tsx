import { Table, type TableColumnsType } from "antd";
import type { ReactNode } from "react";
import { ResponsiveContainer, XAxis } from "recharts";
import type { Shape } from "../api/client";
import { colour } from "../ui/theme";
import textCss from "../ui/text.module.css";
import wearCss from "./wear.module.css";

export type History = Shape["WearHistory"];

export const TICK = { fontSize: 15, fill: colour.ink };
export const MARGIN = { top: 12, right: 24, bottom: 4, left: 8 };
/** How much room is left beside a chart for its numbers. */
export const ASIDE = 64;

export interface Axis {
  from: number;
  to: number;
  ticks: number[];
  unit: string;
}

const STEPS = [500, 1000, 2000, 5000, 10_000, 20_000, 50_000, 100_000];
const MOST_TICKS = 6;

/** The distance all charts of a reservoir share, to where the bike is now, in round numbers. */
export function axisOf(history: History): Axis {
  const all = [...history.points, ...history.oil, ...history.marks].map(({ km }) => km);
  all.push(history.now);
  const [least, most] = [Math.min(...all), Math.max(...all)];
  const room = (most - least) * 0.04;
  const step = STEPS.find((one) => (most - least + 2 * room) / one <= MOST_TICKS) ?? 100_000;
  const from = Math.max(0, Math.floor((least - room) / step) * step);
  const to = Math.ceil((most + room) / step) * step;
  const ticks = Array.from(
    { length: Math.round((to - from) / step) + 1 },
    (_, n) => from + n * step,
  );
  return { from, to, ticks, unit: history.unit };
}

const grouped = (km: number) => Math.round(km).toLocaleString("en").replaceAll(",", "\u202f");

/** What is drawn (by the chart library, where it has a `height`), as words and numbers too: on the
 * screen when it is asked for, and always in print. */
export function Chart<Row extends object>({
  title,
  says,
  height,
  columns,
  rows,
  children,
}: {
  title: string;
  says?: string;
  height?: number;
  columns: TableColumnsType<Row>;
  rows: Row[];
  children: ReactNode;
}) {
  return (
    <section className={wearCss.wearChart} aria-label={title}>
      <h2>{title}</h2>
      {says && <p className={textCss.soft}>{says}</p>}
      <div role="img" aria-label={`${title}, drawn`}>
        {height ? (
          <ResponsiveContainer width="100%" height={height}>
            {children}
          </ResponsiveContainer>
        ) : (
          children
        )}
      </div>
      <details>
        <summary>As a table</summary>
        <Table<Row>
          size="small"
          columns={columns}
          dataSource={rows}
          rowKey="key"
          pagination={false}
        />
      </details>
    </section>
  );
}

export const km = (axis: Axis, shown = true) => (
  <XAxis
    type="number"
    dataKey="km"
    domain={[axis.from, axis.to]}
    ticks={axis.ticks}
    tickFormatter={grouped}
    tick={shown ? TICK : false}
    height={shown ? 30 : 6}
    allowDataOverflow
    unit={shown ? ` ${axis.unit}` : ""}
    interval="preserveStartEnd"
  />
);
