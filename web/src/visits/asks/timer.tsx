import { Button } from "antd";
import { PAN, type PanWords } from "../../findings/reading";
import { Chips } from "../../ui/Chips";
import { useDraft } from "../draft";
import { remaining } from "../remaining";
import type { StepProps } from "../sheet";
import { useTick } from "../useClock";
import { colour } from "../../ui/theme";
import asksCss from "./asks.module.css";
import controlsCss from "../../ui/controls.module.css";

function Ring({ share, words }: { share: number; words: string }) {
  const length = 2 * Math.PI * 88;
  return (
    <svg viewBox="0 0 200 200" className={asksCss.ring} role="timer" aria-label={words}>
      <circle cx="100" cy="100" r="88" fill="none" stroke={colour.line} strokeWidth="14" />
      <circle
        cx="100"
        cy="100"
        r="88"
        fill="none"
        stroke={colour.action}
        strokeWidth="14"
        strokeDasharray={`${length * share} ${length}`}
        transform="rotate(-90 100 100)"
      />
      <text x="100" y="116" textAnchor="middle" className={asksCss.ringWords} fill={colour.ink}>
        {words}
      </text>
    </svg>
  );
}

function verbs(kind: string): { start: string; stop: string } {
  return kind === "drain"
    ? { start: "Plug is out", stop: "Dripping has stopped" }
    : { start: "Start", stop: "Done" };
}

/** A wait with a clock. What has to run its full time cannot be ended early. */
export function TimerStep({ sheet, step, now, busy, send }: StepProps) {
  useTick(250);
  const { start, stop } = verbs(step.kind);
  const [pan, setPan] = useDraft<PanWords>(`${sheet.id}.${step.id}.pan`, "");
  const minutes = step.minutes ?? 0;
  if (!step.started_at || !step.ends_at) {
    return (
      <>
        <Ring share={0} words={`${minutes} min`} />
        {step.kind === "drain" && (
          <Chips
            label="Pan"
            words={PAN}
            on={pan ? [pan] : []}
            toggle={(word) => setPan(word === pan ? "" : word)}
          />
        )}
        <Button
          type="primary"
          className={controlsCss.bigAction}
          disabled={busy}
          onClick={() => send("start", pan ? { pan_clean: pan === PAN[0] } : {})}
        >
          {start}
        </Button>
      </>
    );
  }
  const total = minutes * sheet.seconds_per_minute * 1000;
  const gone = now() - Date.parse(step.started_at);
  const over = Date.parse(step.ends_at) <= now();
  return (
    <>
      <Ring share={Math.min(gone / total, 1)} words={remaining(step.ends_at, now())} />
      <Button
        type={over ? "primary" : "default"}
        className={controlsCss.bigAction}
        disabled={busy || (step.full && !over)}
        onClick={() => send("stop", {})}
      >
        {over || step.kind === "drain" ? stop : "Done early"}
      </Button>
    </>
  );
}
