import { clsx } from "clsx";
import { Table, type TableColumnsType } from "antd";
import { Link } from "react-router";
import type { Shape } from "../api/client";
import { dayWords } from "../ui/days";
import listsCss from "../ui/lists.module.css";
import textCss from "../ui/text.module.css";

type Line = Shape["ServiceLine"];

function Took({ service }: { service: Line }) {
  return (
    <>
      <b>{service.took || "–"}</b>
      {service.not_learned && (
        <p className={textCss.soft}>Not learned from. {service.not_learned}</p>
      )}
    </>
  );
}

const COLUMNS: TableColumnsType<Line> = [
  { title: "Done", dataIndex: "done_on", render: dayWords, className: textCss.tabular },
  { title: "At", dataIndex: "odometer", className: textCss.tabular },
  {
    title: "Came out",
    dataIndex: "drained",
    className: textCss.tabular,
    render: (drained: string) => drained || "–",
    responsive: ["sm"],
  },
  { title: "It took", className: textCss.tabular, render: (_, line) => <Took service={line} /> },
  { title: "What", dataIndex: "did" },
  {
    title: "With",
    render: (_, line) =>
      [line.fluid, line.by_word || line.found ? "" : line.variant, line.found]
        .filter(Boolean)
        .join(", "),
    responsive: ["sm"],
  },
  {
    title: "By",
    render: (_, line) =>
      line.visit ? (
        <Link to={`/visits/${line.visit}`}>{line.done_by}</Link>
      ) : (
        [line.done_by, line.proof].filter(Boolean).join("; ")
      ),
  },
];

/** What a reservoir got so far, newest first. */
export function Services({ services }: { services: Line[] }) {
  if (services.length === 0) return <p className={textCss.soft}>No service on record.</p>;
  return (
    <Table<Line>
      className={clsx(listsCss.lists, listsCss.services)}
      size="small"
      columns={COLUMNS}
      dataSource={services}
      rowKey={(line) => `${line.done_on} ${line.odometer}`}
      pagination={services.length > 8 ? { pageSize: 8, size: "small" } : false}
    />
  );
}

/** What was added between services, newest first. */
export function TopUps({ lines }: { lines: Shape["TopUpLine"][] }) {
  if (lines.length === 0) return null;
  return (
    <>
      <h3>Topped up</h3>
      <ul>
        {lines.map((line) => (
          <li key={`${line.done_on} ${line.odometer}`}>
            {dayWords(line.done_on)}, {line.odometer}:{" "}
            <b className={textCss.tabular}>{line.amount}</b> {line.fluid}{" "}
            <span className={textCss.soft}>{line.done_by}</span>
          </li>
        ))}
      </ul>
    </>
  );
}
