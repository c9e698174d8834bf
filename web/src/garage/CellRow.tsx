import { clsx } from "clsx";
import { Button } from "antd";
import { memo } from "react";
import { problemOf } from "../api/client";
import { CellInput } from "./CellInput";
import { Answer, Said } from "./CellSays";
import { usePassOn, useTyping, type Source } from "./cells";
import { ask, type Row } from "./sheets";
import sheetsCss from "./sheets.module.css";
import textCss from "../ui/text.module.css";

function SecondCheck({ row, me, check }: { row: Row; me: string; check: (() => void) | null }) {
  const again = row.one_pair && check && row.entered_by_who !== me;
  if (row.checked_by && !again) {
    return (
      <span
        className={clsx(textCss.soft, sheetsCss.cellWho)}
        title={`${row.entered_by}, checked by ${row.checked_by}`}
      >
        ✓ {row.checked_by}
      </span>
    );
  }
  if (!row.number) return null;
  if (check && row.entered_by_who !== me) {
    return (
      <button className={sheetsCss.cellCheck} onClick={check} aria-label={`Check ${row.path}`}>
        check
      </button>
    );
  }
  return (
    <span className={clsx(textCss.unchecked, sheetsCss.cellWho)}>
      {row.entered_by}, not checked
    </span>
  );
}

function Provenance({
  row,
  me,
  check,
  stamp,
}: {
  row: Row;
  me: string;
  check: (() => void) | null;
  stamp: (() => void) | null;
}) {
  if (!row.written) return row.needed ? <b className={textCss.unchecked}>missing</b> : null;
  const source = [row.document, row.page && `p. ${row.page}`].filter(Boolean).join(", ");
  const short = row.page ? `p. ${row.page}` : row.document || "no source";
  return (
    <>
      {stamp ? (
        <button
          className={sheetsCss.cellSource}
          onClick={stamp}
          title={`${source}. Press to give it the source typed above.`}
        >
          {short}
        </button>
      ) : (
        <span className={sheetsCss.cellSource} title={source}>
          {short}
        </span>
      )}
      <SecondCheck row={row} me={me} check={check} />
    </>
  );
}

interface Props {
  sheet: number;
  row: Row;
  source: Source;
  me: string;
  editable: boolean;
}

/** One value: typed as the manual gives it, read back while typing, written down on Enter, on the
 * button, or by going on to another. A sheet has hundreds: one whose value stays is not drawn again. */
export const CellRow = memo(function CellRow({ sheet, row, source, me, editable }: Props) {
  const { typing, type, save, isSent, settle, change, drop } = useTyping(sheet, row);
  usePassOn(row.path);
  const typed = typing ?? row.written;
  const dirty = typing !== null && typing !== row.written;
  const problem = problemOf(change.error);
  const put = () => {
    if (dirty && !isSent(typed)) save(typed, source);
  };
  const send = (said: string) => {
    type(said);
    save(said, source);
  };
  const stamp = () => {
    settle();
    save(row.written, source);
  };
  return (
    <div className={clsx(sheetsCss.cellRow, row.needed && !row.written && sheetsCss.cellNeeded)}>
      <label htmlFor={row.path}>{row.label}</label>
      <div>
        <CellInput
          row={row}
          value={typed}
          disabled={!editable}
          bad={problem !== null && !problem.question}
          type={type}
          put={put}
          choose={send}
        />
        {!problem && <Said row={row} sheet={sheet} typed={typed} dirty={dirty} />}
        <Answer
          problem={problem}
          path={row.path}
          keep={(theirs) => save(typed, source, theirs)}
          take={() => {
            drop();
            change.reset();
          }}
          answer={send}
        />
      </div>
      <div className={sheetsCss.cellFrom}>
        {dirty && row.choices.length === 0 ? (
          <Button type="primary" onClick={put}>
            Write
          </Button>
        ) : (
          <Provenance
            row={row}
            me={me}
            check={editable ? () => change.mutate(ask.check(sheet, [row.path])) : null}
            stamp={editable && source.document ? stamp : null}
          />
        )}
      </div>
    </div>
  );
});
