import { Button, Input } from "antd";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useDeferredValue, useState } from "react";
import { api, taken, type Shape } from "../api/client";
import { Refused } from "../workshop/Refused";
import { ask, useSheetChange, type Page } from "./sheets";
import { Dialog } from "../workshop/Dialog";

function useTable(sheet_id: number, body: Shape["TableRequest"]) {
  return useQuery({
    queryKey: ["table", sheet_id, body],
    queryFn: () =>
      taken(api.POST("/api/sheets/{sheet_id}/table/", { params: { path: { sheet_id } }, body })),
    enabled: body.text.trim() !== "",
    retry: false,
    placeholderData: keepPreviousData,
  });
}

function Columns({
  reading,
  map,
}: {
  reading: Shape["TableReading"];
  map: (columns: string[]) => void;
}) {
  return (
    <table className="spec paste-rows">
      <thead>
        <tr>
          {reading.columns.map((column, index) => (
            <th key={index} scope="col">
              <select
                aria-label={`Column ${index + 1} is`}
                value={column}
                onChange={(event) =>
                  map(reading.columns.map((c, i) => (i === index ? event.target.value : c)))
                }
              >
                {reading.choices.map((choice) => (
                  <option key={choice} value={choice}>
                    {choice || "leave out"}
                  </option>
                ))}
              </select>
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {reading.rows.slice(0, 3).map((row, index) => (
          <tr key={index}>
            {row.map((cell, at) => (
              <td key={at}>{cell}</td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Proposals({ lines }: { lines: Shape["TableLine"][] }) {
  return (
    <ul className="paste-lines">
      {lines.map((line, index) => (
        <li key={index} className={line.fault ? "paste-fault" : ""}>
          <span className="soft">line {line.line}</span> {line.label} <b>{line.written}</b>{" "}
          {line.stands && line.stands !== line.written && `instead of ${line.stands} `}
          {line.fault && <span className="refusal">{line.fault}</span>}
        </li>
      ))}
    </ul>
  );
}

/** A table from a manual, pasted: what each column means, and what it would write. */
export function PasteTable({ page, close }: { page: Page; close: () => void }) {
  const [text, setText] = useState("");
  const [reservoir, setReservoir] = useState("");
  const [columns, setColumns] = useState<string[]>([]);
  const [heading, setHeading] = useState(true);
  const body = { text: useDeferredValue(text), reservoir, columns, heading };
  const table = useTable(page.id, body);
  const change = useSheetChange(page.id);
  const lines = table.data?.lines ?? [];
  const good = lines.filter((line) => !line.fault);
  const write = () =>
    change.mutate(
      ask.write(
        page.id,
        good.map(({ path, written, revision, document, page: at }) => ({
          path,
          written,
          revision,
          document,
          page: at,
        })),
      ),
      { onSuccess: close },
    );
  return (
    <Dialog open title="Paste a table" onCancel={close} footer={null} width={900}>
      <div className="paste">
        <Input.TextArea
          rows={5}
          aria-label="Rows with tabs or commas between the columns"
          placeholder="Rows with tabs or commas between the columns"
          value={text}
          onChange={(event) => {
            setText(event.target.value);
            setColumns([]);
          }}
        />
        <label>
          Rows that name no reservoir belong to{" "}
          <select value={reservoir} onChange={(event) => setReservoir(event.target.value)}>
            <option value="">none</option>
            {page.reservoirs.map((block) => (
              <option key={block.key} value={block.key}>
                {block.label}
              </option>
            ))}
          </select>
        </label>
        <label>
          <input
            type="checkbox"
            checked={heading}
            onChange={(event) => setHeading(event.target.checked)}
          />{" "}
          The first row is a heading
        </label>
        {table.data && <Columns reading={table.data} map={setColumns} />}
        <Proposals lines={lines} />
        <Refused said={table.error?.message ?? change.error?.message} />
        <Button type="primary" disabled={good.length === 0 || change.isPending} onClick={write}>
          Write {good.length} values down
          {lines.length > good.length && `, leave ${lines.length - good.length} out`}
        </Button>
      </div>
    </Dialog>
  );
}
