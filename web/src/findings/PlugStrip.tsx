import { clsx } from "clsx";
import { Button } from "antd";
import { useState } from "react";
import type { Shape } from "../api/client";
import { useMay } from "../api/hooks";
import { AnswerFinding } from "./AnswerFinding";
import { Overrule } from "./Overrule";
import { MarkedPicture } from "./Pictures";
import { PlugTip } from "../glass/PlugTip";
import { dayWords, monthWords } from "../ui/days";
import plugStripCss from "./plug-strip.module.css";
import painterCss from "./painter.module.css";
import textCss from "../ui/text.module.css";
import verdictCss from "../ui/verdict.module.css";

type Plug = Shape["Plug"];

/** What somebody said of it afterwards: a lead who saw it otherwise, whoever looked into it. */
function Afterwards({ plug }: { plug: Plug }) {
  return (
    <>
      {plug.overruled.map(({ level, reason, by, at }) => (
        <span key={at} className={plugStripCss.rule}>
          <b>Taken for {level}</b> instead of {plug.judged}: {reason} ({by}, {dayWords(at)})
        </span>
      ))}
      {plug.answers.map(({ outcome, words, by, at }) => (
        <span key={at} className={plugStripCss.rule}>
          <b>{outcome}:</b> {words} ({by}, {dayWords(at)})
        </span>
      ))}
    </>
  );
}

/** How it was read at first, beside the reading that counts. */
function First({ plug }: { plug: Plug }) {
  if (!plug.first) return null;
  return (
    <p>
      <PlugTip parts={plug.first.parts} level={plug.first.level} size={40} /> {plug.first.by} read
      it first: {plug.first.level}. {plug.by}&apos;s reading counts.
    </p>
  );
}

function Meaning({ plug }: { plug: Plug }) {
  return (
    <p>
      <b className={clsx(verdictCss.verdict, verdictCss[`verdict-${plug.level}`])}>{plug.level}:</b>{" "}
      {plug.origin}. {plug.action}
      {plug.rules.map((rule) => (
        <span key={rule} className={clsx(textCss.soft, plugStripCss.rule)}>
          {rule}
        </span>
      ))}
      {plug.chance && (
        <span className={clsx(textCss.soft, plugStripCss.rule)}>
          Chance that a fault grows there: {plug.chance}.
        </span>
      )}
      {plug.changes.map((words) => (
        <span key={words} className={clsx(textCss.soft, plugStripCss.rule)}>
          {words}
        </span>
      ))}
      {plug.again && <b className={plugStripCss.rule}>{plug.again}</b>}
      {plug.confirm.length > 0 && (
        <span className={plugStripCss.rule}>
          <b>To make sure:</b> {plug.confirm.join(" ")}
        </span>
      )}
      <span className={clsx(textCss.soft, plugStripCss.rule)}>
        {plug.by}, {dayWords(plug.found_on)}
        {plug.kept && `. Kept: ${plug.kept}`}
        {plug.note && `. ${plug.note}`}
      </span>
      <Afterwards plug={plug} />
    </p>
  );
}

/** A finding whole: what it means, who read it, what was said of it since, and what can be done with it. */
export function ShownPlug({ bike, plug, mayWork }: { bike: string; plug: Plug; mayWork: boolean }) {
  const lead = useMay("lead");
  return (
    <>
      <Meaning plug={plug} />
      <First plug={plug} />
      {plug.pictures.length > 0 && (
        <div className={painterCss.plugPictures}>
          {plug.pictures.map(({ id, x, y }) => (
            <MarkedPicture key={id} picture={{ id, ...(x !== null && y !== null && { x, y }) }} />
          ))}
        </div>
      )}
      {mayWork && <AnswerFinding key={plug.id} bike={bike} plug={plug} />}
      {lead && <Overrule key={`${plug.id} otherwise`} bike={bike} plug={plug} />}
    </>
  );
}

/** The plug's findings as a strip of tips, newest first; the chosen one says what it means. Covered while
 * the plug may still have to be read: whoever reads it has not seen the last one. */
export function PlugStrip({
  bike,
  findings,
  mayWork,
  covered,
}: {
  bike: string;
  findings: Plug[];
  mayWork: boolean;
  covered: boolean;
}) {
  const [shown, setShown] = useState(0);
  const [open, setOpen] = useState(false);
  const plug = findings[shown];
  if (!plug) return <p className={textCss.soft}>Nothing on record yet.</p>;
  if (covered && !open && !plug.look) {
    return (
      <p className={textCss.soft}>
        It is in the shop: read its plug before you look at the last ones.{" "}
        <Button onClick={() => setOpen(true)}>Show the last plugs</Button>
      </p>
    );
  }
  return (
    <div>
      <div className={plugStripCss.stripTips}>
        {findings.map((finding, index) => (
          <button
            key={finding.id}
            className={clsx(plugStripCss.tip, index === shown && plugStripCss.tipShown)}
            onClick={() => setShown(index)}
            aria-pressed={index === shown}
          >
            {finding.look ? (
              <span className={plugStripCss.look}>{finding.look}</span>
            ) : (
              <PlugTip parts={finding.parts} level={finding.level} size={56} />
            )}
            <span className={textCss.tabular}>{monthWords(finding.found_on)}</span>
          </button>
        ))}
      </div>
      <ShownPlug bike={bike} plug={plug} mayWork={mayWork} />
    </div>
  );
}
