import { clsx } from "clsx";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { Select, Table, Tabs, Tag, type TableColumnsType } from "antd";
import { useState } from "react";
import { Link } from "react-router";
import { api, taken, type Shape } from "../api/client";
import { keys } from "../api/keys";
import { PlugTip } from "../glass/PlugTip";
import { dayWords } from "../ui/days";
import { Waiting, WentWrong } from "../ui/States";
import { Compared } from "./Compared";
import { Laboratory } from "./Laboratory";
import controlsCss from "../ui/controls.module.css";
import listsCss from "../ui/lists.module.css";
import pageCss from "../ui/page.module.css";
import textCss from "../ui/text.module.css";
import verdictCss from "../ui/verdict.module.css";
import wearCss from "./wear.module.css";

type Ledger = Shape["FindingsLedger"];
type Line = Shape["FindingLine"];
type Filter = "level" | "matter" | "kind" | "model" | "fluid" | "school" | "grader";
type Wanted = { page: number } & Partial<Record<Filter, string>>;

const wearOf = (bike: string, reservoir: string) =>
  `/bikes/${bike}/wear/${encodeURIComponent(reservoir)}`;

/** What was looked at has no plug to be drawn over distance. */
const pageOf = (bike: string, reservoir: string) =>
  `/bikes/${bike}?reservoir=${encodeURIComponent(reservoir)}`;

const COLUMNS: TableColumnsType<Line> = [
  {
    title: "Plug",
    key: "plug",
    render: (_, line) =>
      line.look ? null : <PlugTip parts={line.parts} level={line.level} size={44} />,
  },
  { title: "When", dataIndex: "on", render: dayWords, className: textCss.tabular },
  {
    title: "Bike",
    key: "bike",
    render: (_, line) => (
      <Link
        to={(line.look ? pageOf : wearOf)(line.bike_id, line.reservoir)}
        className={wearCss.ledgerLink}
      >
        {line.bike}, {line.reservoir}
      </Link>
    ),
  },
  {
    title: "Level",
    dataIndex: "level",
    render: (level: Line["level"]) => (
      <b className={clsx(verdictCss.verdict, verdictCss[`verdict-${level}`])}>{level}</b>
    ),
  },
  { title: "What was seen", dataIndex: "words" },
  { title: "Growing", dataIndex: "chance", className: textCss.tabular, responsive: ["lg"] },
  { title: "Oil", dataIndex: "fluid", responsive: ["lg"] },
  { title: "Read by", dataIndex: "by", responsive: ["md"] },
];

/** What has to be answered, holds first. */
function Asking({ asking }: { asking: Ledger["asking"] }) {
  if (asking.length === 0) return <p className={textCss.soft}>Nothing asks for anything.</p>;
  return (
    <ul className={verdictCss.asking} aria-label="What findings ask for">
      {asking.flatMap(({ bike, bike_id, asks }) =>
        asks.map((ask) => (
          <li key={`${bike_id} ${ask.reservoir}`}>
            <Link
              to={(ask.look ? pageOf : wearOf)(bike_id, ask.reservoir)}
              className={clsx(verdictCss.askingRow, verdictCss[`verdict-${ask.level}`])}
            >
              <Tag>{ask.level}</Tag>
              <b>
                {bike}, {ask.label}
              </b>{" "}
              {ask.action}
            </Link>
          </li>
        )),
      )}
    </ul>
  );
}

function ChangedLately({ changed }: { changed: Ledger["changed"] }) {
  if (changed.length === 0)
    return <p className={textCss.soft}>Nothing got worse in the last month.</p>;
  return (
    <ul className={wearCss.changed}>
      {changed.map((one) => (
        <li key={`${one.bike_id} ${one.reservoir}`}>
          <Link
            to={(one.look ? pageOf : wearOf)(one.bike_id, one.reservoir)}
            className={wearCss.changedRow}
          >
            {!one.look && <PlugTip parts={one.parts} level={one.now} size={44} />}
            <span>
              <b>
                {one.bike}, {one.reservoir}
              </b>
              <br />
              {one.was}, now {one.now}, {dayWords(one.on)}
            </span>
          </Link>
        </li>
      ))}
    </ul>
  );
}

const FILTERS: [Filter, string][] = [
  ["level", "Any level"],
  ["matter", "Any matter"],
  ["kind", "Any reservoir"],
  ["model", "Any model"],
  ["fluid", "Any oil"],
  ["school", "Any interval"],
  ["grader", "Read by anybody"],
];

function Filters({
  choices,
  wanted,
  set,
}: {
  choices: Ledger["choices"];
  wanted: Wanted;
  set: (wanted: Wanted) => void;
}) {
  const words: Record<Filter, string[]> = {
    level: choices.levels,
    matter: choices.matters,
    kind: choices.kinds,
    model: choices.models,
    fluid: choices.fluids,
    school: choices.schools,
    grader: choices.graders,
  };
  return (
    <div className={clsx(controlsCss.choices, wearCss.ledgerFilters)}>
      {FILTERS.map(([name, any]) => (
        <Select
          key={name}
          aria-label={any}
          allowClear
          showSearch
          placeholder={any}
          value={wanted[name]}
          options={words[name].map((word) => ({ value: word, label: word }))}
          onChange={(value: string | undefined) => set({ ...wanted, page: 1, [name]: value })}
        />
      ))}
    </div>
  );
}

function All({
  ledger,
  wanted,
  set,
}: {
  ledger: Ledger;
  wanted: Wanted;
  set: (w: Wanted) => void;
}) {
  return (
    <section aria-label="All findings">
      <Filters choices={ledger.choices} wanted={wanted} set={set} />
      <div className={wearCss.wide}>
        <Table<Line>
          className={listsCss.lists}
          size="small"
          columns={COLUMNS}
          dataSource={ledger.lines}
          rowKey="id"
          locale={{ emptyText: "No finding fits that. Take a filter off." }}
          pagination={{
            current: ledger.page,
            pageSize: 40,
            total: ledger.count,
            showSizeChanger: false,
            hideOnSinglePage: true,
            onChange: (page) => set({ ...wanted, page }),
          }}
        />
      </div>
    </section>
  );
}

/** What is going wrong somewhere? What asks first, what got worse, all of it, and what may be claimed. */
export function FindingsPage({ mayWork }: { mayWork: boolean }) {
  const [wanted, setWanted] = useState<Wanted>({ page: 1 });
  const { data, isError, error, refetch } = useQuery({
    queryKey: keys.ledgerOf(wanted),
    queryFn: () => taken(api.GET("/api/findings/", { params: { query: wanted } })),
    placeholderData: keepPreviousData,
  });
  if (!data) {
    if (isError) return <WentWrong error={error} again={() => void refetch()} />;
    return <Waiting what="Laying the plugs out" />;
  }
  return (
    <>
      <div className={pageCss.heading}>
        <h1>Findings</h1>
        <span className={textCss.soft}>{data.count} written down</span>
      </div>
      <div className={wearCss.findingsTop}>
        <section aria-label="To be answered">
          <h2>To be answered</h2>
          <Asking asking={data.asking} />
        </section>
        <section aria-label="Worse than last time">
          <h2>Worse than last time</h2>
          <ChangedLately changed={data.changed} />
        </section>
      </div>
      <Tabs
        items={[
          {
            key: "all",
            label: "All findings",
            children: <All ledger={data} wanted={wanted} set={setWanted} />,
          },
          { key: "lab", label: "Laboratory", children: <Laboratory mayWork={mayWork} /> },
          {
            key: "compared",
            label: "Held against each other",
            children: <Compared kinds={data.choices.kinds} />,
          },
        ]}
      />
    </>
  );
}
