import { Button } from "antd";
import type { Shape } from "../api/client";
import { Adder } from "./Adder";
import { CellRow } from "./CellRow";
import { standOnFirst, type Source } from "./cells";
import { ask, useSheetChange, type Page } from "./sheets";
import schoolsCss from "./schools.module.css";
import sheetsCss from "./sheets.module.css";

type Block = Shape["ReservoirBlock"];

const LEG = "fork leg";

interface Props {
  page: Page;
  block: Block;
  source: Source;
  me: string;
}

interface Cell {
  sheet: number;
  source: Source;
  me: string;
  editable: boolean;
}

function Plates({ block, cell, out }: { block: Block; cell: Cell; out: (part: string) => void }) {
  return (
    <div className={sheetsCss.plates}>
      {block.plates.map((plate) => (
        <fieldset key={plate.title} className={schoolsCss.plate}>
          <legend>{plate.title}</legend>
          {plate.rows.map((row) => (
            <CellRow key={row.path} row={row} {...cell} />
          ))}
        </fieldset>
      ))}
      {block.parts.map((part) => (
        <fieldset key={part.key} className={schoolsCss.plate}>
          <legend>
            {part.key}
            {cell.editable && (
              <button
                className={sheetsCss.partOut}
                onClick={() => out(part.key)}
                aria-label={`Take the ${part.key} out`}
              >
                off the sheet
              </button>
            )}
          </legend>
          {part.rows.map((row) => (
            <CellRow key={row.path} row={row} {...cell} />
          ))}
        </fieldset>
      ))}
    </div>
  );
}

/** The second check of everything at once, and taking the reservoir out. */
function Head({ page, block, me }: Omit<Props, "source">) {
  const change = useSheetChange(page.id);
  const rows = [
    ...block.plates.flatMap((plate) => plate.rows),
    ...block.parts.flatMap((part) => part.rows),
  ];
  const toCheck = rows.filter(
    (row) =>
      row.number && row.written && (!row.checked_by || row.one_pair) && row.entered_by_who !== me,
  );
  const paths = toCheck.map((row) => row.path);
  const other = page.reservoirs.find(({ kind, key }) => kind === LEG && key !== block.key);
  return (
    <div className={sheetsCss.resHead}>
      <h2>{block.label}</h2>
      {page.may_edit && paths.length > 0 && (
        <Button onClick={() => change.mutate(ask.check(page.id, paths))}>
          I compared all {paths.length} with the manual
        </Button>
      )}
      {page.may_edit && block.kind === LEG && other && (
        <Button onClick={() => change.mutate(ask.leg(page.id, other.key, block.key))}>
          Copy what is missing from the {other.label}
        </Button>
      )}
      {page.may_edit && (
        <Button type="text" onClick={() => change.mutate(ask.remove(page.id, block.key, ""))}>
          Take the {block.label} out
        </Button>
      )}
    </div>
  );
}

/** All values of one reservoir, plate by plate, then plug by plug. */
export function ReservoirSheet({ page, block, source, me }: Props) {
  const change = useSheetChange(page.id);
  const cell = { sheet: page.id, source, me, editable: page.may_edit };
  const known = new Set(block.parts.map((part) => part.key));
  const add = (kind: string) =>
    change.mutate(ask.add(page.id, kind, block.key), {
      onSuccess: (next) => {
        const now = next.reservoirs.find((one) => one.key === block.key);
        const made = now?.parts.find((part) => !known.has(part.key));
        if (made) standOnFirst(`${block.key}/${made.key}/`);
      },
    });
  return (
    <section className={sheetsCss.res} aria-label={block.label}>
      <Head page={page} block={block} me={me} />
      <Plates
        block={block}
        cell={cell}
        out={(part) => change.mutate(ask.remove(page.id, block.key, part))}
      />
      {page.may_edit && (
        <Adder label={`Add to the ${block.label}`} options={page.roles} add={add} />
      )}
    </section>
  );
}
