import { useDeferredValue, useLayoutEffect, useRef, useState } from "react";
import { Refusal, type Problem } from "../api/client";
import { Question } from "../workshop/FieldAnswer";
import { ask, useReading, useSheetChange, type Page, type Row } from "./sheets";

export interface Source {
  document: string;
  page: string;
}

/** The next value to type, in reading order. */
export function focusNext(from: HTMLElement) {
  const all = [...document.querySelectorAll<HTMLElement>("[data-cell]")];
  stand(all[all.indexOf(from) + 1]);
}

/** A value that goes off the sheet under the hands, as levels do with an exact quantity, passes the
 * keyboard on to the next one. */
function usePassOn(path: string) {
  useLayoutEffect(
    () => () => {
      const from = document.activeElement;
      if (from instanceof HTMLElement && from.dataset["cell"] === path) focusNext(from);
    },
    [path],
  );
}

/** Stand on a field with what it holds selected, so that typing replaces it. */
export function stand(field: HTMLElement | undefined | null) {
  field?.focus();
  if (field instanceof HTMLInputElement) field.select();
}

const PATIENCE = 40;

/** The first value of a reservoir or part that has just been added, as soon as it is drawn. */
export function standOnFirst(start: string, tries = PATIENCE) {
  const field = document.querySelector<HTMLElement>(`[data-cell^="${start}"]`);
  if (field) stand(field);
  else if (tries > 0) setTimeout(() => standOnFirst(start, tries - 1), 25);
}

interface AnswerProps {
  problem: Problem | null;
  path: string;
  keep: (theirs: string) => void;
  take: () => void;
  answer: (said: string) => void;
}

/** Why a value was not taken; when somebody else changed it, both stand here to choose from. */
function Answer({ problem, path, keep, take, answer }: AnswerProps) {
  if (!problem) return null;
  const clash = problem.errors.find((error) => error.pointer === `/${path}`);
  if (problem.question && clash) {
    return (
      <Question said={clash.detail} options={clash.options} sure={clash.sure} answer={answer} />
    );
  }
  if (problem.code !== "spec.edited" || !clash) {
    return (
      <span className="cell-refused" role="alert">
        {problem.detail}
      </span>
    );
  }
  return (
    <div className="clash" role="alert">
      <p>{clash.detail}</p>
      <button onClick={() => keep(clash.options[0] ?? "")}>
        Keep mine: {clash.options[1] || "nothing"}
      </button>
      <button onClick={take}>Take theirs: {clash.options[0] || "nothing"}</button>
    </div>
  );
}

function CellInput({
  row,
  field,
  type,
  leave,
}: {
  row: Row;
  field: Record<string, unknown> & { value: string };
  type: (text: string) => void;
  leave: () => void;
}) {
  if (row.choices.length === 0) {
    return (
      <input
        {...field}
        placeholder={row.hint}
        autoComplete="off"
        onChange={(event) => type(event.target.value)}
        onBlur={leave}
      />
    );
  }
  return (
    <select {...field} onChange={(event) => type(event.target.value)} onBlur={leave}>
      <option value="">–</option>
      {row.choices.map((choice) => (
        <option key={choice}>{choice}</option>
      ))}
    </select>
  );
}

/** What is typed and not read yet: asked about, or refused. */
function Unread({ said }: { said: Refusal }) {
  const look = said.problem.question ? "cell-doubt" : "cell-refused";
  return <span className={look}>{said.message}</span>;
}

function Said({
  row,
  sheet,
  typed,
  dirty,
}: {
  row: Row;
  sheet: number;
  typed: string;
  dirty: boolean;
}) {
  const text = useDeferredValue(typed);
  const reading = useReading(sheet, row.path, text, dirty);
  const doubts = dirty ? (reading.data?.doubts ?? []) : [];
  const refused = dirty && reading.error instanceof Refusal ? reading.error : null;
  const reads = dirty ? (reading.data?.reads ?? "") : row.reads;
  return (
    <>
      {reads && reads !== typed && <span className="cell-reads tabular">= {reads}</span>}
      {refused && <Unread said={refused} />}
      {doubts.map((doubt) => (
        <span key={doubt} className="cell-doubt">
          {doubt}
        </span>
      ))}
    </>
  );
}

function SecondCheck({ row, me, check }: { row: Row; me: string; check: (() => void) | null }) {
  if (row.checked_by) {
    return (
      <span className="soft cell-who" title={`${row.entered_by}, checked by ${row.checked_by}`}>
        ✓ {row.checked_by}
      </span>
    );
  }
  if (!row.number) return null;
  if (check && row.entered_by !== me) {
    return (
      <button className="cell-check" onClick={check} aria-label={`Check ${row.path}`}>
        check
      </button>
    );
  }
  return <span className="unchecked cell-who">{row.entered_by}, not checked</span>;
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
  if (!row.written) return row.needed ? <b className="unchecked">missing</b> : null;
  const source = [row.document, row.page && `p. ${row.page}`].filter(Boolean).join(", ");
  const short = row.page ? `p. ${row.page}` : row.document || "no source";
  return (
    <>
      {stamp ? (
        <button
          className="cell-source"
          onClick={stamp}
          title={`${source}. Press to give it the source typed above.`}
        >
          {short}
        </button>
      ) : (
        <span className="cell-source" title={source}>
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

function rowOf(page: Page, path: string): Row | undefined {
  const rows = page.reservoirs.flatMap((block) => [
    ...block.plates.flatMap((plate) => plate.rows),
    ...block.parts.flatMap((part) => part.rows),
  ]);
  return rows.find((row) => row.path === path);
}

/** What is being typed into a value, and writing it down against the revision it began from. */
function useTyping(sheet: number, row: Row) {
  const [typing, setTyping] = useState<string | null>(null);
  const began = useRef(row.revision);
  const change = useSheetChange(sheet);
  /** With `seen`, what somebody else wrote and the writer has read: it may be written over. */
  const save = (text: string, source: Source, seen?: string) =>
    change.mutate(async () => {
      if (seen !== undefined) {
        const now = rowOf(await ask.look(sheet)(), row.path);
        if ((now?.written ?? "") === seen) began.current = now?.revision ?? 0;
      }
      const cell = { path: row.path, written: text, revision: began.current, ...source };
      const page = await ask.write(sheet, [cell])();
      began.current = rowOf(page, row.path)?.revision ?? 0;
      // what was typed on meanwhile stays
      setTyping((now) => (now === text ? null : now));
      return page;
    });
  const type = (text: string) => {
    if (change.error) change.reset(); // what was said was of the words before
    if (typing === null) began.current = row.revision;
    setTyping(text);
  };
  const settle = () => {
    began.current = row.revision;
  };
  return { typing, type, save, settle, change, drop: () => setTyping(null) };
}

/** One value: typed as the manual gives it, read back while typing, written down on Enter. */
export function CellRow({ sheet, row, source, me, editable }: Props) {
  const { typing, type, save, settle, change, drop } = useTyping(sheet, row);
  usePassOn(row.path);
  const typed = typing ?? row.written;
  const dirty = typing !== null && typing !== row.written;
  const problem = change.error instanceof Refusal ? change.error.problem : null;
  const put = () => {
    if (dirty) save(typed, source);
  };
  const field = {
    id: row.path,
    "data-cell": row.path,
    value: typed,
    disabled: !editable,
    className: problem && !problem.question ? "cell-input cell-input-bad" : "cell-input",
    onKeyDown: (event: React.KeyboardEvent<HTMLElement>) => {
      if (event.key !== "Enter") return;
      event.preventDefault();
      put();
      focusNext(event.currentTarget);
    },
  };
  return (
    <div className={row.needed && !row.written ? "cell-row cell-needed" : "cell-row"}>
      <label htmlFor={row.path}>{row.label}</label>
      <div>
        <CellInput row={row} field={field} type={type} leave={put} />
        {!problem && <Said row={row} sheet={sheet} typed={typed} dirty={dirty} />}
        <Answer
          problem={problem}
          path={row.path}
          keep={(theirs) => save(typed, source, theirs)}
          take={() => {
            drop();
            change.reset();
          }}
          answer={(said) => {
            type(said);
            save(said, source);
          }}
        />
      </div>
      <div className="cell-from">
        <Provenance
          row={row}
          me={me}
          check={editable ? () => change.mutate(ask.check(sheet, [row.path])) : null}
          stamp={
            editable && source.document
              ? () => {
                  settle();
                  save(row.written, source);
                }
              : null
          }
        />
      </div>
    </div>
  );
}
