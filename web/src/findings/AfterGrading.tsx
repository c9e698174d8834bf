import { clsx } from "clsx";
import { useQuery } from "@tanstack/react-query";
import { Button } from "antd";
import { useState, type ReactNode } from "react";
import { api, taken, type Shape } from "../api/client";
import { keys } from "../api/keys";
import { PlugTip } from "../glass/PlugTip";
import { monthWords } from "../ui/days";
import { Why } from "../ui/Why";
import controlsCss from "../ui/controls.module.css";
import painterCss from "./painter.module.css";
import textCss from "../ui/text.module.css";
import verdictCss from "../ui/verdict.module.css";

/** What the rules make of it, what would make sure, and what would change it. */
function Verdict({ verdict }: { verdict: Shape["VerdictShape"] }) {
  return (
    <div className={painterCss.afterVerdict}>
      {!verdict.no_magnet && (
        <PlugTip parts={verdict.parts} level={verdict.level} size={88} label="The plug as read" />
      )}
      <div>
        <p>
          <b className={clsx(verdictCss.verdict, verdictCss[`verdict-${verdict.level}`])}>
            {verdict.level}:
          </b>{" "}
          {verdict.origin}. {verdict.action} <Why reasons={verdict.rules} />
        </p>
        {verdict.confirm.length > 0 && (
          <p>
            <b>To make sure:</b> {verdict.confirm.join(" ")}
          </p>
        )}
        {verdict.changes.map((words) => (
          <p key={words} className={textCss.soft}>
            {words}
          </p>
        ))}
      </div>
    </div>
  );
}

/** The plug's last tips, beside which one's own stands now. */
function LastTimes({ bike, reservoir }: { bike: string; reservoir: string }) {
  const { data = [] } = useQuery({
    queryKey: keys.findings(bike, reservoir),
    queryFn: () =>
      taken(
        api.GET("/api/bikes/{bike_id}/findings/{reservoir}/", {
          params: { path: { bike_id: bike, reservoir } },
        }),
      ),
  });
  if (data.length === 0) return <p className={textCss.soft}>Its first plug on record.</p>;
  return (
    <figure className={painterCss.lastTimes}>
      <figcaption>The last times, newest first, with the chance that a fault grew</figcaption>
      <ul>
        {data.slice(0, 6).map((plug) => (
          <li key={plug.id}>
            <PlugTip parts={plug.parts} level={plug.level} size={64} />
            <span className={textCss.tabular}>{monthWords(plug.found_on)}</span>
            <span>{plug.level}</span>
            {plug.chance && <span className={textCss.soft}>{plug.chance}</span>}
          </li>
        ))}
      </ul>
    </figure>
  );
}

interface Props {
  bike: string;
  step: Shape["StepShape"];
  verdict: Shape["VerdictShape"] | null;
  /** Who reads it anew, without having seen the first reading. */
  regrade: () => void;
  children: ReactNode;
}

/** A plug that has been read. Whoever may read it anew does so before they look; the last tips are shown
 * only to those who have read this one. */
export function AfterGrading({ bike, step, verdict, regrade, children }: Props) {
  const [looked, setLooked] = useState(false);
  if (step.regrade && !looked) {
    return (
      <div className={painterCss.secondEyes}>
        <p>
          {step.entry?.by} has read this plug. Read it yourself before you look: yours counts then.
        </p>
        <div className={controlsCss.choices}>
          <Button type="primary" size="large" onClick={regrade}>
            Read it myself
          </Button>
          <Button size="large" onClick={() => setLooked(true)}>
            Only look
          </Button>
        </div>
      </div>
    );
  }
  return (
    <>
      {children}
      {verdict && <Verdict verdict={verdict} />}
      {step.entry && <LastTimes bike={bike} reservoir={step.reservoir} />}
    </>
  );
}
