import { useTick } from "./useClock";

export function remaining(endsAt: string, now: number): string {
  const left = Math.ceil((Date.parse(endsAt) - now) / 1000);
  const seconds = Math.abs(left);
  const words = `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, "0")}`;
  return left >= 0 ? words : `${words} over`;
}

/** Time left of a running timer; it goes on counting past the end. */
export function Countdown({ endsAt, now }: { endsAt: string; now: () => number }) {
  useTick(500);
  return <span className="countdown">{remaining(endsAt, now())}</span>;
}
