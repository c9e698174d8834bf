import type { TableColumnsType } from "antd";
import { Bar, CartesianGrid, ComposedChart, ReferenceLine, YAxis } from "recharts";
import { colour } from "../ui/theme";
import { ASIDE, Chart, km, MARGIN, TICK, type Axis, type History } from "./Chart";
import textCss from "../ui/text.module.css";

/** What came out beside what had gone in, and where another oil was filled. */
export function OilOver({ history, axis }: { history: History; axis: Axis }) {
  const rows = history.oil
    .map((point, index) => ({
      ...point,
      key: String(index),
      put: history.oil[index - 1]?.took ?? null,
    }))
    .filter(({ took, drained }) => took !== null || drained !== null);
  if (rows.length === 0) return null;
  const columns: TableColumnsType<(typeof rows)[number]> = [
    { title: "When", dataIndex: "on", className: textCss.tabular },
    { title: "At", dataIndex: "at", className: textCss.tabular },
    { title: "Had gone in, ml", dataIndex: "put" },
    { title: "Came out, ml", dataIndex: "drained" },
    { title: "Went in, ml", dataIndex: "took" },
    { title: "Oil", dataIndex: "fluid" },
  ];
  return (
    <Chart
      title="Came out, beside what had gone in"
      says="Pale: what had gone in before. Dark: what came out of it. A line where another oil was filled."
      height={180}
      columns={columns}
      rows={rows}
    >
      <ComposedChart data={rows} margin={MARGIN} barGap={2}>
        <CartesianGrid stroke={colour.line} vertical={false} />
        {km(axis)}
        <YAxis tick={TICK} width={ASIDE} unit=" ml" domain={[0, "auto"]} />
        {history.marks
          .filter(({ lane }) => lane === "Another oil")
          .map(({ km, words }) => (
            <ReferenceLine key={`${km} ${words}`} x={km} stroke={colour.action} strokeWidth={2} />
          ))}
        <Bar dataKey="put" fill="#e0c58f" barSize={14} isAnimationActive={false} />
        <Bar dataKey="drained" fill="#8a5300" barSize={14} isAnimationActive={false} />
      </ComposedChart>
    </Chart>
  );
}
