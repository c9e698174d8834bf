import { remaining } from "./remaining";
import { useTick } from "./useClock";

/** Time left of a running timer; it goes on counting past the end. */
export function Countdown({ endsAt, now }: { endsAt: string; now: () => number }) {
  useTick(500);
  return <span className="countdown">{remaining(endsAt, now())}</span>;
}
