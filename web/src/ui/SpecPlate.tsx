import { clsx } from "clsx";
import { Popover } from "antd";
import { useState, type ReactNode } from "react";
import specCss from "./spec.module.css";
import textCss from "./text.module.css";

/** A value of a spec sheet, as it is read: the manual's words, and what they are in the reader's units. */
export interface SpecValue {
  path: string;
  name: string;
  written: string;
  means: string;
  /** Somebody else compared it, or it is no number that has to be. */
  sure: boolean;
  number: boolean;
  /** What is to be said of it beside its name. */
  marks: string[];
}

/** Reservoir by reservoir, what belongs together stands together. */
export function SpecCard({ children }: { children: ReactNode }) {
  return (
    <div className={specCss.specCard} aria-label="Spec" role="group">
      {children}
    </div>
  );
}

export function SpecPlate({
  title,
  note = "",
  children,
}: {
  title: string;
  note?: string;
  children: ReactNode;
}) {
  return (
    <section className={specCss.specPlate}>
      <h3>{title}</h3>
      {note && <p className={specCss.specCheck}>{note}</p>}
      {children}
    </section>
  );
}

function Written({ value }: { value: SpecValue }) {
  const means = value.means === value.written ? "" : value.means;
  return (
    <span className={clsx(specCss.specValue, value.number && specCss.specNumber)}>
      {value.written}
      {means && <span className={specCss.specMeans}>{means}</span>}
    </span>
  );
}

/** One value; a tap says where it stands and who looked at it. `source` is told how to close that again. */
export function SpecRow({
  value,
  source,
}: {
  value: SpecValue;
  source: (close: () => void) => ReactNode;
}) {
  const [open, setOpen] = useState(false);
  return (
    <Popover
      open={open}
      onOpenChange={setOpen}
      trigger="click"
      placement="bottomRight"
      content={<div className={specCss.specSource}>{source(() => setOpen(false))}</div>}
    >
      <button className={specCss.specRow} aria-expanded={open}>
        <span className={specCss.specName}>
          {value.name}
          {value.marks.map((mark) => (
            <b key={mark} className={specCss.specOwn}>
              {mark}
            </b>
          ))}
        </span>
        <Written value={value} />
        <span
          className={value.sure ? specCss.specMark : clsx(specCss.specMark, specCss.specMarkNot)}
          aria-hidden
        >
          {value.sure ? "✓" : "!"}
        </span>
        <span className={textCss.hidden}>{value.sure ? "" : ", not checked"}</span>
      </button>
    </Popover>
  );
}

/** Where a value stands, and who wrote it down and compared it. */
export function SpecSource({
  source,
  by,
  checkedBy,
  number,
}: {
  source: string;
  by: string;
  checkedBy: string;
  number: boolean;
}) {
  const not = number && !checkedBy;
  return (
    <>
      <b>{source || "No source named"}</b>
      <span className={not ? textCss.unchecked : undefined}>
        {checkedBy ? `${by}, checked by ${checkedBy}` : not ? `${by}, not checked yet` : by}
      </span>
    </>
  );
}
