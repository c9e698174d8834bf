import { clsx } from "clsx";
import { Button, Popover } from "antd";
import { useState } from "react";
import type { Shape } from "../api/client";
import bikeCss from "./bike.module.css";
import textCss from "../ui/text.module.css";

type Line = Shape["SpecLine"];

function checked(line: Line): string {
  if (line.checked_by) return `${line.entered_by}, checked by ${line.checked_by}`;
  return line.number ? `${line.entered_by}, not checked yet` : line.entered_by;
}

/** Where a value stands and who looked at it; what differs on this bike is changed from here. */
function Source({ line, differs }: { line: Line; differs: (() => void) | null }) {
  return (
    <div className={bikeCss.specSource}>
      <b>{line.source || "No source named"}</b>
      <span className={line.number && !line.checked_by ? textCss.unchecked : undefined}>
        {checked(line)}
      </span>
      {line.own && <span>This bike&apos;s own, not its model&apos;s.</span>}
      {line.waits && (
        <span className={textCss.unchecked}>
          {line.waits_by} wrote {line.waits} for this bike. Until somebody else has compared it, the
          sheet&apos;s counts.
        </span>
      )}
      {differs && (
        <Button onClick={differs} aria-label={`Differs on this bike: ${line.name}`}>
          Differs on this bike?
        </Button>
      )}
    </div>
  );
}

/** One value: its name, the manual's words large, what they are in the reader's units. */
function SpecRow({ line, differs }: { line: Line; differs: (() => void) | null }) {
  const [open, setOpen] = useState(false);
  const sure = !line.number || line.checked_by !== "";
  const mark = sure ? "✓" : "!";
  const converted = line.converted === line.as_written ? "" : line.converted;
  const change = differs && (() => (setOpen(false), differs()));
  return (
    <Popover
      open={open}
      onOpenChange={setOpen}
      trigger="click"
      placement="bottomRight"
      content={<Source line={line} differs={change} />}
    >
      <button className={bikeCss.specRow} aria-expanded={open}>
        <span className={bikeCss.specName}>
          {line.short}
          {line.own && <b className={bikeCss.own}>this bike&apos;s own</b>}
          {line.waits && <b className={bikeCss.own}>{line.waits} waits for a second person</b>}
        </span>
        <span className={clsx(bikeCss.specValue, line.number && bikeCss.specNumber)}>
          {line.as_written}
          {converted && <span className={bikeCss.specMeans}>{converted}</span>}
        </span>
        <span
          className={sure ? bikeCss.specMark : clsx(bikeCss.specMark, bikeCss.specMarkNot)}
          aria-hidden
        >
          {mark}
        </span>
        <span className={textCss.hidden}>{sure ? "" : ", not checked"}</span>
      </button>
    </Popover>
  );
}

/** A reservoir's spec as a card: what belongs together stands together, tap a value for its source. */
export function SpecCard({
  reservoir,
  differs,
}: {
  reservoir: Shape["ReservoirPage"];
  differs: ((line: Line) => void) | null;
}) {
  return (
    <div className={bikeCss.specCard} aria-label="Spec" role="group">
      {reservoir.spec.map((group) => (
        <section key={group.title} className={bikeCss.specPlate}>
          <h3>{group.title}</h3>
          {group.note && <p className={bikeCss.specCheck}>{group.note}</p>}
          {group.lines.map((line) => (
            <SpecRow key={line.path} line={line} differs={differs && (() => differs(line))} />
          ))}
        </section>
      ))}
    </div>
  );
}
