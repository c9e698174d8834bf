import { remaining } from "./remaining";
import { useTick } from "./useClock";
import benchCss from "./bench.module.css";

/** Time left of a running timer; it goes on counting past the end. */
export function Countdown({ endsAt, now }: { endsAt: string; now: () => number }) {
  useTick(500);
  return <span className={benchCss.countdown}>{remaining(endsAt, now())}</span>;
}
