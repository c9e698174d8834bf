import { clsx } from "clsx";
import { useDeferredValue } from "react";
import { Refusal, type Problem } from "../api/client";
import { Question } from "../ui/FieldAnswer";
import { useReading, type Row } from "./sheets";
import sheetsCss from "./sheets.module.css";
import textCss from "../ui/text.module.css";

interface AnswerProps {
  problem: Problem | null;
  path: string;
  keep: (theirs: string) => void;
  take: () => void;
  answer: (said: string) => void;
}

/** Why a value was not taken; when somebody else changed it, both stand here to choose from. */
export function Answer({ problem, path, keep, take, answer }: AnswerProps) {
  if (!problem) return null;
  const clash = problem.errors.find((error) => error.pointer === `/${path}`);
  if (problem.question && clash) {
    return (
      <Question said={clash.detail} options={clash.options} sure={clash.sure} answer={answer} />
    );
  }
  if (problem.code !== "spec.edited" || !clash) {
    return (
      <span className={sheetsCss.cellRefused} role="alert">
        {problem.detail}
      </span>
    );
  }
  return (
    <div className={sheetsCss.clash} role="alert">
      <p>{clash.detail}</p>
      <button onClick={() => keep(clash.options[0] ?? "")}>
        Keep mine: {clash.options[1] || "nothing"}
      </button>
      <button onClick={take}>Take theirs: {clash.options[0] || "nothing"}</button>
    </div>
  );
}

/** What is typed and not read yet: asked about, or refused. */
function Unread({ said }: { said: Refusal }) {
  const look = said.problem.question ? sheetsCss.cellDoubt : sheetsCss.cellRefused;
  return <span className={look}>{said.message}</span>;
}

/** What the words of a value mean, or the one thing that is wrong with them. */
export function Said({
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
  if (dirty && reading.error instanceof Refusal) return <Unread said={reading.error} />;
  const doubts = dirty ? (reading.data?.doubts ?? []) : [];
  const reads = dirty ? (reading.data?.reads ?? "") : row.reads;
  return (
    <>
      {reads && reads !== typed && (
        <span className={clsx(sheetsCss.cellReads, textCss.tabular)}>= {reads}</span>
      )}
      {doubts.map((doubt) => (
        <span key={doubt} className={sheetsCss.cellDoubt}>
          {doubt}
        </span>
      ))}
    </>
  );
}
