import { useState } from "react";
import type { Shape } from "../api/client";
import { PlugTip } from "../glass/PlugTip";
import { AnswerFinding } from "../findings/AnswerFinding";
import { dayWords, monthWords } from "../workshop/days";

/** The plug's findings as a strip of tips, newest first; the chosen one says what it means. */
export function PlugStrip({
  bike,
  findings,
  mayWork,
}: {
  bike: string;
  findings: Shape["Plug"][];
  mayWork: boolean;
}) {
  const [shown, setShown] = useState(0);
  const plug = findings[shown];
  if (!plug) return <p className="soft">No plug on record yet.</p>;
  return (
    <div className="strip">
      <div className="strip-tips">
        {findings.map((finding, index) => (
          <button
            key={finding.id}
            className={index === shown ? "tip tip-shown" : "tip"}
            onClick={() => setShown(index)}
            aria-pressed={index === shown}
          >
            <PlugTip parts={finding.parts} level={finding.level} size={56} />
            <span className="tabular">{monthWords(finding.found_on)}</span>
          </button>
        ))}
      </div>
      <p>
        <b className={`verdict verdict-${plug.level}`}>{plug.level}:</b> {plug.origin}.{" "}
        {plug.action}
        {plug.rules.map((rule) => (
          <span key={rule} className="soft rule">
            {rule}
          </span>
        ))}
        {plug.chance && (
          <span className="soft rule">Chance that a fault grows there: {plug.chance}.</span>
        )}
        {plug.again && <b className="rule">{plug.again}</b>}
        {plug.confirm.length > 0 && (
          <span className="rule">
            <b>To make sure:</b> {plug.confirm.join(" ")}
          </span>
        )}
        {plug.answers.map(({ outcome, words, by, at }) => (
          <span key={at} className="rule">
            <b>{outcome}:</b> {words} ({by}, {dayWords(at)})
          </span>
        ))}
      </p>
      {mayWork && <AnswerFinding key={plug.id} bike={bike} plug={plug} />}
    </div>
  );
}
