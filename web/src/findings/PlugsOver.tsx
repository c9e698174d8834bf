import type { TableColumnsType } from "antd";
import {
  CartesianGrid,
  ComposedChart,
  Line,
  ReferenceLine,
  ResponsiveContainer,
  Scatter,
  YAxis,
} from "recharts";
import type { Shape } from "../api/client";
import { PlugTip } from "../glass/PlugTip";
import { colour } from "../ui/theme";
import { ASIDE, Chart, km, MARGIN, TICK, type Axis, type History } from "./Chart";
import textCss from "../ui/text.module.css";
import wearCss from "./wear.module.css";

type Point = Shape["WearPoint"] & { key: string; row: number; chosen: boolean };

const TIP = 44;

interface TipDrawn {
  cx?: number;
  cy?: number;
  payload?: Point;
}

function TipAt({ cx = 0, cy = 0, payload, choose }: TipDrawn & { choose: (id: string) => void }) {
  if (!payload) return null;
  return (
    <g className={wearCss.tipAt} onClick={() => choose(payload.id)}>
      {payload.chosen && (
        <rect
          x={cx - TIP / 2 - 4}
          y={cy - TIP / 2 - 4}
          width={TIP + 8}
          height={TIP + 8}
          rx="8"
          fill="#fff"
          stroke={colour.action}
          strokeWidth="3"
        />
      )}
      <PlugTip
        parts={payload.parts}
        level={payload.level}
        size={TIP}
        x={cx - TIP / 2}
        y={cy - TIP / 2}
      />
    </g>
  );
}

/** The tips, where they were found; each is a button for who has no pointer. */
function Tips({ rows, axis, choose }: { rows: Point[]; axis: Axis; choose: (id: string) => void }) {
  return (
    <div className={wearCss.wearTips} role="group" aria-label="Plugs by distance">
      {rows.map(({ id, at, on, level, chosen }) => (
        <button
          key={id}
          className={wearCss.hiddenUntilFocus}
          aria-pressed={chosen}
          onClick={() => choose(id)}
        >
          {at}, {on}: {level}
        </button>
      ))}
      <ResponsiveContainer width="100%" height={TIP + 24}>
        <ComposedChart data={rows} margin={MARGIN}>
          {km(axis, false)}
          <YAxis
            type="number"
            domain={[0, 2]}
            tick={false}
            width={ASIDE}
            axisLine={false}
            tickLine={false}
          />
          <Scatter
            dataKey="row"
            isAnimationActive={false}
            shape={(drawn: TipDrawn) => <TipAt {...drawn} choose={choose} />}
          />
        </ComposedChart>
      </ResponsiveContainer>
    </div>
  );
}

const COLUMNS: TableColumnsType<Point> = [
  { title: "When", dataIndex: "on", className: textCss.tabular },
  { title: "At", dataIndex: "at", className: textCss.tabular },
  { title: "Level", dataIndex: "level" },
  { title: "Chance that a fault grew", dataIndex: "chance_words" },
  { title: "Read by", dataIndex: "by" },
  { title: "Baseline", dataIndex: "anew", render: (anew: boolean) => (anew ? "begins anew" : "") },
];

/** The plug's tips by distance, and beneath them the chance that a fault was growing. */
export function PlugsOver({
  history,
  axis,
  chosen,
  choose,
}: {
  history: History;
  axis: Axis;
  chosen: string;
  choose: (id: string) => void;
}) {
  const rows = history.points.map((point) => ({
    ...point,
    key: point.id,
    row: 1,
    chosen: point.id === chosen,
  }));
  return (
    <>
      <Tips rows={rows} axis={axis} choose={choose} />
      <Chart title="Chance that a fault grows" height={170} columns={COLUMNS} rows={rows}>
        <ComposedChart data={rows} margin={MARGIN}>
          <CartesianGrid stroke={colour.line} vertical={false} />
          {km(axis)}
          <YAxis domain={[0, 100]} ticks={[0, 33, 67, 100]} unit=" %" tick={TICK} width={ASIDE} />
          <ReferenceLine y={33.3} stroke={colour.alarm} strokeDasharray="8 5" />
          {history.marks.map((mark) => (
            <ReferenceLine
              key={`${mark.km} ${mark.words}`}
              x={mark.km}
              stroke={colour.soft}
              strokeDasharray="2 4"
            />
          ))}
          <Line
            dataKey="chance"
            stroke={colour.ink}
            strokeWidth={3}
            isAnimationActive={false}
            dot={{ r: 5, fill: colour.ink }}
          />
        </ComposedChart>
      </Chart>
    </>
  );
}
