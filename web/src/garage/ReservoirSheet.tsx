import "./schools.css";
import { Button } from "antd";
import { useState } from "react";
import type { Shape } from "../api/client";
import { CellRow, focusNext, standOnFirst, type Source } from "./CellRow";
import { ask, useSheetChange, type Page } from "./sheets";

type Block = Shape["ReservoirBlock"];

/** A list to choose something to add from: choose and tap, or type and Enter. */
export function Adder({
  label,
  options,
  add,
}: {
  label: string;
  options: string[];
  add: (kind: string) => void;
}) {
  const [chosen, setChosen] = useState("");
  const put = () => {
    add(chosen);
    setChosen("");
  };
  return (
    <div className="adder">
      <label>
        {label}
        <select
          data-cell={label}
          value={chosen}
          onChange={(event) => setChosen(event.target.value)}
          onKeyDown={(event) => {
            if (event.key !== "Enter") return;
            event.preventDefault();
            if (chosen) put();
            else focusNext(event.currentTarget);
          }}
        >
          <option value="">choose</option>
          {options.map((option) => (
            <option key={option}>{option}</option>
          ))}
        </select>
      </label>
      <Button disabled={!chosen} onClick={put}>
        Add
      </Button>
    </div>
  );
}

interface Props {
  page: Page;
  block: Block;
  source: Source;
  me: string;
}

/** All values of one reservoir, plate by plate, then plug by plug. */
export function ReservoirSheet({ page, block, source, me }: Props) {
  const change = useSheetChange(page.id);
  const editable = page.may_edit;
  const cell = { sheet: page.id, source, me, editable };
  const rows = [
    ...block.plates.flatMap((plate) => plate.rows),
    ...block.parts.flatMap((part) => part.rows),
  ];
  const toCheck = rows.filter(
    (row) => row.number && row.written && !row.checked_by && row.entered_by !== me,
  );
  return (
    <section className="res" aria-label={block.label}>
      <div className="res-head">
        <h2>{block.label}</h2>
        {editable && toCheck.length > 0 && (
          <Button
            size="small"
            onClick={() =>
              change.mutate(
                ask.check(
                  page.id,
                  toCheck.map((row) => row.path),
                ),
              )
            }
          >
            I compared all {toCheck.length} with the manual
          </Button>
        )}
        {editable && (
          <Button
            size="small"
            type="text"
            onClick={() => change.mutate(ask.remove(page.id, block.key, ""))}
          >
            Take the {block.label} out
          </Button>
        )}
      </div>
      <div className="plates">
        {block.plates.map((plate) => (
          <fieldset key={plate.title} className="plate">
            <legend>{plate.title}</legend>
            {plate.rows.map((row) => (
              <CellRow key={row.path} row={row} {...cell} />
            ))}
          </fieldset>
        ))}
        {block.parts.map((part) => (
          <fieldset key={part.key} className="plate">
            <legend>
              {part.key}
              {editable && (
                <button
                  className="part-out"
                  onClick={() => change.mutate(ask.remove(page.id, block.key, part.key))}
                  aria-label={`Take the ${part.key} out`}
                >
                  take out
                </button>
              )}
            </legend>
            {part.rows.map((row) => (
              <CellRow key={row.path} row={row} {...cell} />
            ))}
          </fieldset>
        ))}
      </div>
      {editable && (
        <Adder
          label={`Add to the ${block.label}`}
          options={page.roles}
          add={(kind) =>
            change.mutate(ask.add(page.id, kind, block.key), {
              onSuccess: (next) => {
                const known = new Set(block.parts.map((part) => part.key));
                const now = next.reservoirs.find((one) => one.key === block.key);
                const made = now?.parts.find((part) => !known.has(part.key));
                if (made) standOnFirst(`${block.key}/${made.key}/`);
              },
            })
          }
        />
      )}
    </section>
  );
}
