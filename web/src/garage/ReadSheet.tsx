import type { Shape } from "../api/client";
import { SpecCard, SpecPlate, SpecRow, SpecSource } from "../ui/SpecPlate";
import type { Row } from "./sheets";
import textCss from "../ui/text.module.css";
import sheetsCss from "./sheets.module.css";

type Block = Shape["ReservoirBlock"];

const isWritten = (row: Row) => row.written !== "";

function value(row: Row) {
  return {
    path: row.path,
    name: row.label,
    written: row.written,
    means: row.reads,
    sure: !row.number || (row.checked_by !== "" && !row.one_pair),
    number: row.number,
    marks: [],
  };
}

function Source({ row }: { row: Row }) {
  const source = [row.document, row.page && `p. ${row.page}`].filter(Boolean).join(", ");
  return (
    <SpecSource
      source={source}
      by={row.entered_by}
      checkedBy={row.checked_by}
      number={row.number}
    />
  );
}

/** A reservoir of an approved sheet: what stands there, to be read. */
export function ReadSheet({ block }: { block: Block }) {
  const plates = [
    ...block.plates.map(({ title, rows }) => ({ title, rows: rows.filter(isWritten) })),
    ...block.parts.map(({ key, rows }) => ({ title: key, rows: rows.filter(isWritten) })),
  ].filter(({ rows }) => rows.length > 0);
  return (
    <section className={sheetsCss.read} aria-label={block.label}>
      {plates.length === 0 && <p className={textCss.soft}>Nothing stands here yet.</p>}
      <SpecCard>
        {plates.map(({ title, rows }) => (
          <SpecPlate key={title} title={title}>
            {rows.map((row) => (
              <SpecRow key={row.path} value={value(row)} source={() => <Source row={row} />} />
            ))}
          </SpecPlate>
        ))}
      </SpecCard>
    </section>
  );
}
