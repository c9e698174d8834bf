import { clsx } from "clsx";
import { Button, Input, Table, type TableColumnsType } from "antd";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, taken, type Shape } from "../../api/client";
import { keys } from "../../api/keys";
import { Choice } from "../../ui/Choice";
import { Day } from "../../ui/Day";
import { Refused } from "../../ui/Refused";
import controlsCss from "../../ui/controls.module.css";
import listsCss from "../../ui/lists.module.css";
import textCss from "../../ui/text.module.css";
import wideCss from "../../ui/wide.module.css";
import workshopCss from "../workshop.module.css";

type Line = Shape["AuditLine"];
interface Wanted {
  page: number;
  by: string;
  act: string;
  since: string;
  until: string;
  text: string;
}

const COLUMNS: TableColumnsType<Line> = [
  { title: "When", dataIndex: "at", className: textCss.tabular },
  { title: "Who", dataIndex: "by" },
  { title: "Did what", dataIndex: "act", render: (act: string) => <b>{act}</b> },
  { title: "To what", dataIndex: "about" },
  { title: "Stood there before", dataIndex: "was" },
];
const any = (words: readonly string[], label: string) => [
  { value: "", label },
  ...words.map((word) => ({ value: word, label: word })),
];

const NOTHING: Wanted = { page: 1, by: "", act: "", since: "", until: "", text: "" };

function Filters({
  audit,
  wanted,
  set,
}: {
  audit: Shape["Audit"];
  wanted: Wanted;
  set: (more: Partial<Wanted>) => void;
}) {
  const narrowed = Object.entries(wanted).filter(([name]) => name !== "page");
  return (
    <div className={clsx(controlsCss.choices, workshopCss.auditFilters)}>
      <Choice
        aria-label="By whom"
        options={any(audit.people, "Anybody")}
        value={wanted.by}
        onChange={(by) => set({ by })}
      />
      <Choice
        aria-label="What was done"
        options={any(audit.acts, "Did anything")}
        value={wanted.act}
        onChange={(act) => set({ act })}
      />
      <Day
        aria-label="From"
        placeholder="from"
        allowClear
        value={wanted.since}
        onChange={(since) => set({ since })}
      />
      <Day
        aria-label="To"
        placeholder="to"
        allowClear
        value={wanted.until}
        onChange={(until) => set({ until })}
      />
      <Input
        aria-label="With a word"
        placeholder="a word"
        allowClear
        maxLength={100}
        value={wanted.text}
        onChange={(event) => set({ text: event.target.value })}
      />
      <Button href={`/api/audit.csv?${new URLSearchParams(narrowed as [string, string][])}`}>
        Take it away as CSV
      </Button>
    </div>
  );
}

/** Who changed what, narrowed by person, kind, day and word; all of it as a table to take away. */
export function AuditList() {
  const [wanted, setWanted] = useState(NOTHING);
  const { data, error } = useQuery({
    queryKey: keys.audit(wanted),
    queryFn: () => taken(api.GET("/api/audit/", { params: { query: wanted } })),
    placeholderData: keepPreviousData,
  });
  if (!data) return <Refused said={error?.message} />;
  return (
    <section aria-label="Who changed what">
      <Filters
        audit={data}
        wanted={wanted}
        set={(more) => setWanted({ ...wanted, page: 1, ...more })}
      />
      <Refused said={error?.message} />
      <div
        className={wideCss.workshopWide}
        role="group"
        aria-label="Changes, newest first"
        tabIndex={0}
      >
        <Table<Line>
          className={listsCss.lists}
          size="small"
          columns={COLUMNS}
          dataSource={data.lines.map((line, index) => ({ ...line, key: index }))}
          locale={{ emptyText: "Nothing fits that. Widen it." }}
          pagination={{
            current: data.page,
            pageSize: 50,
            total: data.count,
            showSizeChanger: false,
            hideOnSinglePage: true,
            onChange: (page) => setWanted({ ...wanted, page }),
          }}
        />
      </div>
    </section>
  );
}
