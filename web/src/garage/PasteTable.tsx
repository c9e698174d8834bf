import { clsx } from "clsx";
import { Button, Checkbox, Input } from "antd";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useDeferredValue, useState } from "react";
import { api, taken, type Shape } from "../api/client";
import { keys } from "../api/keys";
import { Choice } from "../ui/Choice";
import { Refused } from "../ui/Refused";
import { ask, useSheetChange, type Page } from "./sheets";
import { Dialog } from "../ui/Dialog";
import sheetsCss from "./sheets.module.css";
import textCss from "../ui/text.module.css";

function useTable(sheet_id: number, body: Shape["TableRequest"]) {
  return useQuery({
    queryKey: keys.table(sheet_id, body),
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
    <table className={clsx(sheetsCss.spec, sheetsCss.pasteRows)}>
      <thead>
        <tr>
          {reading.columns.map((column, index) => (
            <th key={index} scope="col">
              <Choice
                aria-label={`Column ${index + 1} is`}
                className={sheetsCss.pasteColumn}
                value={column}
                options={reading.choices.map((value) => ({ value, label: value || "leave out" }))}
                onChange={(chosen) =>
                  map(reading.columns.map((c, i) => (i === index ? chosen : c)))
                }
              />
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
    <ul className={sheetsCss.pasteLines}>
      {lines.map((line, index) => (
        <li key={index}>
          <span className={textCss.soft}>line {line.line}</span> {line.label} <b>{line.written}</b>{" "}
          {line.stands && line.stands !== line.written && `instead of ${line.stands} `}
          {line.fault && <span className={textCss.refusal}>{line.fault}</span>}
        </li>
      ))}
    </ul>
  );
}

/** What was pasted, and how it is to be read. */
function Pasted({
  page,
  given,
  change,
}: {
  page: Page;
  given: Shape["TableRequest"];
  change: (more: Partial<Shape["TableRequest"]>) => void;
}) {
  const reservoirs = page.reservoirs.map(({ key, label }) => ({ value: key, label }));
  return (
    <>
      <Input.TextArea
        rows={5}
        aria-label="Rows with tabs or commas between the columns"
        placeholder="Rows with tabs or commas between the columns"
        value={given.text}
        onChange={(event) => change({ text: event.target.value, columns: [] })}
      />
      <label>
        Rows that name no reservoir belong to{" "}
        <Choice
          aria-label="Rows that name no reservoir belong to"
          className={sheetsCss.pasteColumn}
          value={given.reservoir}
          options={[{ value: "", label: "none" }, ...reservoirs]}
          onChange={(reservoir) => change({ reservoir })}
        />
      </label>
      <Checkbox
        checked={given.heading}
        onChange={(event) => change({ heading: event.target.checked })}
      >
        The first row is a heading
      </Checkbox>
    </>
  );
}

const EMPTY: Shape["TableRequest"] = { text: "", reservoir: "", columns: [], heading: true };

function asWrites(lines: Shape["TableLine"][]) {
  return lines.map(({ path, written, revision, document, page }) => ({
    path,
    written,
    revision,
    document,
    page,
  }));
}

/** A table from a manual, pasted: what each column means, and what it would write. */
export function PasteTable({ page, close }: { page: Page; close: () => void }) {
  const [given, setGiven] = useState(EMPTY);
  const table = useTable(page.id, useDeferredValue(given));
  const change = useSheetChange(page.id);
  const lines = table.data?.lines ?? [];
  const good = lines.filter((line) => !line.fault);
  const write = () => change.mutate(ask.write(page.id, asWrites(good)), { onSuccess: close });
  return (
    <Dialog open title="Paste a table" onCancel={close} footer={null} width={900}>
      <div className={sheetsCss.paste}>
        <Pasted page={page} given={given} change={(more) => setGiven({ ...given, ...more })} />
        {table.data && (
          <Columns reading={table.data} map={(columns) => setGiven({ ...given, columns })} />
        )}
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
