import { Table, type TableColumnsType } from "antd";
import { Link } from "react-router";
import type { Shape } from "../api/client";
import { dayWords } from "../ui/days";

type Line = Shape["ServiceLine"];

function Took({ service }: { service: Line }) {
  return (
    <>
      <b>{service.took || "–"}</b>
      {service.not_learned && <p className="soft">Not learned from. {service.not_learned}</p>}
    </>
  );
}

const COLUMNS: TableColumnsType<Line> = [
  { title: "Done", dataIndex: "done_on", render: dayWords, className: "tabular" },
  { title: "At", dataIndex: "odometer", className: "tabular" },
  {
    title: "Came out",
    dataIndex: "drained",
    className: "tabular",
    render: (drained: string) => drained || "–",
    responsive: ["sm"],
  },
  { title: "It took", className: "tabular", render: (_, line) => <Took service={line} /> },
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
  if (services.length === 0) return <p className="soft">No service on record.</p>;
  return (
    <Table<Line>
      className="lists services"
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
      <ul className="top-ups">
        {lines.map((line) => (
          <li key={`${line.done_on} ${line.odometer}`}>
            {dayWords(line.done_on)}, {line.odometer}: <b className="tabular">{line.amount}</b>{" "}
            {line.fluid} <span className="soft">{line.done_by}</span>
          </li>
        ))}
      </ul>
    </>
  );
}
