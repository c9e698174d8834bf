import type { TableColumnsType } from "antd";
import { CartesianGrid, ComposedChart, Line, ReferenceArea, ReferenceLine, YAxis } from "recharts";
import type { Shape } from "../api/client";
import { colour } from "../ui/theme";
import { ASIDE, Chart, km, MARGIN, TICK, type Axis, type History } from "./Chart";
import textCss from "../ui/text.module.css";

type Series = Shape["WearSeries"];

function rowsOf(history: History, series: Series) {
  return history.points.map((point, index) => ({
    key: point.id,
    km: point.km,
    at: point.at,
    value: series.values[index] ?? 0,
    smooth: series.smooth[index] ?? 0,
    outside: series.outside.includes(index) ? "outside" : "",
  }));
}

type Row = ReturnType<typeof rowsOf>[number];

const three = (value: number) => value.toFixed(3);
const COLUMNS: TableColumnsType<Row> = [
  { title: "At", dataIndex: "at", className: textCss.tabular },
  { title: "Wear index", dataIndex: "value", render: three },
  { title: "Moving average", dataIndex: "smooth", render: three },
  { title: "Limits", dataIndex: "outside" },
];

function says({ leans, band }: Series): string {
  if (!band) return leans;
  return `${leans} Eight in ten of its kind lie between ${three(band.low)} and ${three(band.high)} (${band.n} findings).`;
}

/** Wear of one matter, with its own limits and what the kind shows. */
export function WearOver({
  history,
  series,
  axis,
}: {
  history: History;
  series: Series;
  axis: Axis;
}) {
  const { band, low, high } = series;
  const rows = rowsOf(history, series);
  const most = Math.max(...rows.map(({ value }) => value), high ?? 0, band?.high ?? 0, 0.02) * 1.1;
  const limits = [low, high].filter((limit) => limit !== null && limit > 0);
  return (
    <Chart
      title={`Wear, ${series.matter}`}
      says={says(series)}
      height={210}
      columns={COLUMNS}
      rows={rows}
    >
      <ComposedChart data={rows} margin={MARGIN}>
        <CartesianGrid stroke={colour.line} vertical={false} />
        {km(axis)}
        <YAxis
          domain={[0, most]}
          tick={TICK}
          width={ASIDE}
          tickFormatter={(value: number) => value.toFixed(most < 0.1 ? 3 : 2)}
        />
        {band && (
          <ReferenceArea y1={band.low} y2={band.high} fill={colour.metal} fillOpacity={0.22} />
        )}
        {limits.map((limit) => (
          <ReferenceLine key={limit} y={limit ?? 0} stroke={colour.alarm} strokeDasharray="8 5" />
        ))}
        <Line
          dataKey="value"
          stroke={colour.soft}
          strokeWidth={1}
          isAnimationActive={false}
          dot={{ r: 5, fill: colour.soft }}
        />
        <Line
          dataKey="smooth"
          stroke={colour.ink}
          strokeWidth={3}
          isAnimationActive={false}
          dot={false}
        />
      </ComposedChart>
    </Chart>
  );
}
