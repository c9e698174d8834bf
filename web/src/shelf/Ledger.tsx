import { clsx } from "clsx";
import { Button, Table, type TableColumnsType } from "antd";
import { useState } from "react";
import type { Shape } from "../api/client";
import { dayWords } from "../ui/days";
import { Refused } from "../ui/Refused";
import { useLedger } from "./stock";
import listsCss from "../ui/lists.module.css";
import textCss from "../ui/text.module.css";

type Line = Shape["LedgerLine"];

const COLUMNS: TableColumnsType<Line> = [
  { title: "When", dataIndex: "on", render: dayWords, className: textCss.tabular },
  { title: "What was done", dataIndex: "kind" },
  { title: "By how much", dataIndex: "change", className: clsx(textCss.tabular, textCss.strong) },
  { title: "To what", dataIndex: "what" },
  { title: "By", dataIndex: "by", responsive: ["sm"] },
];

/** What happened to the bottles of a fluid, or to everything: who, when, how much. */
export function Ledger({ fluid }: { fluid?: number }) {
  const [open, setOpen] = useState(false);
  const ledger = useLedger(fluid, open);
  return (
    <>
      <Button type="link" aria-expanded={open} onClick={() => setOpen(!open)}>
        {open ? "Hide what happened" : "What happened"}
      </Button>
      {open && (
        <Table<Line>
          className={clsx(listsCss.lists, listsCss.ledger)}
          size="small"
          columns={COLUMNS}
          dataSource={ledger.data?.lines ?? []}
          rowKey="id"
          pagination={(ledger.data?.lines.length ?? 0) > 8 ? { pageSize: 8, size: "small" } : false}
        />
      )}
      {open && <Refused said={ledger.error?.message} />}
    </>
  );
}
