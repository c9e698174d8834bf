import { Countdown } from "./Countdown";
import type { StepProps } from "./sheet";
import asksCss from "./asks/asks.module.css";

type Waiting = Pick<StepProps, "step" | "now">;

/** Whether what is asked for is still to be waited for. */
export function isEarly(step: Waiting["step"], now: Waiting["now"]): boolean {
  return step.not_before !== null && Date.parse(step.not_before) > now();
}

/** How long it has to settle, or to stand, before it tells anything. */
export function Stands({ words, step, now }: Waiting & { words: string }) {
  if (!step.not_before || !isEarly(step, now)) return null;
  return (
    <p className={asksCss.settles} role="timer">
      {words}: <Countdown endsAt={step.not_before} now={now} />
    </p>
  );
}
