/** Time left until a moment as a clock; past it, how long it is over. */
export function remaining(endsAt: string, now: number): string {
  const left = Math.ceil((Date.parse(endsAt) - now) / 1000);
  const seconds = Math.abs(left);
  const words = `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, "0")}`;
  return left >= 0 ? words : `${words} over`;
}
