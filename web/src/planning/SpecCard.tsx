import { Button } from "antd";
import type { Shape } from "../api/client";
import { SpecCard as Card, SpecPlate, SpecRow, SpecSource } from "../ui/SpecPlate";
import textCss from "../ui/text.module.css";

type Line = Shape["SpecLine"];

/** Where a value stands and who looked at it; what differs on this bike is changed from here. */
function Source({ line, differs }: { line: Line; differs: (() => void) | null }) {
  return (
    <>
      <SpecSource
        source={line.source}
        by={line.entered_by}
        checkedBy={line.checked_by}
        number={line.number}
      />
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
    </>
  );
}

function value(line: Line) {
  return {
    path: line.path,
    name: line.short,
    written: line.as_written,
    means: line.converted,
    sure: !line.number || line.checked_by !== "",
    number: line.number,
    marks: [
      line.own ? "this bike's own" : "",
      line.waits ? `${line.waits} waits for a second person` : "",
    ].filter(Boolean),
  };
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
    <Card>
      {reservoir.spec.map((group) => (
        <SpecPlate key={group.title} title={group.title} note={group.note}>
          {group.lines.map((line) => (
            <SpecRow
              key={line.path}
              value={value(line)}
              source={(close) => (
                <Source line={line} differs={differs && (() => (close(), differs(line)))} />
              )}
            />
          ))}
        </SpecPlate>
      ))}
    </Card>
  );
}
