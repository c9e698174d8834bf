const MONTHS = [
  "Jan",
  "Feb",
  "Mar",
  "Apr",
  "May",
  "Jun",
  "Jul",
  "Aug",
  "Sep",
  "Oct",
  "Nov",
  "Dec",
] as const;

/** How a day is typed and shown in a field, as the rest of the product says it. */
export const DAY = "D MMM YYYY";

/** A day as everything here says it: `26 Nov 2026`; what is no day stays as it is. */
export function dayWords(iso: string): string {
  const [, year, month, day] = /^(\d{4})-(\d{2})-(\d{2})/.exec(iso) ?? [];
  const name = MONTHS[Number(month) - 1];
  return name ? `${Number(day)}\u00a0${name} ${year}` : iso;
}

/** A month as everything here says it: `Nov 2026`. */
export function monthWords(iso: string): string {
  const [, year, month] = /^(\d{4})-(\d{2})/.exec(iso) ?? [];
  const name = MONTHS[Number(month) - 1];
  return name ? `${name} ${year}` : iso;
}

const two = (number: number) => String(number).padStart(2, "0");

/** A moment on this tablet's clock: `26 Nov 2026, 14:05`. */
export function momentWords(iso: string): string {
  const at = new Date(iso);
  if (Number.isNaN(at.getTime())) return iso;
  const day = `${at.getFullYear()}-${two(at.getMonth() + 1)}-${two(at.getDate())}`;
  return `${dayWords(day)}, ${two(at.getHours())}:${two(at.getMinutes())}`;
}

/** The time of day of a moment: `14:05`. */
export function timeWords(iso: string): string {
  return momentWords(iso).split(", ")[1] ?? "";
}

/** The last time it was this time of day (`14:05`), as a moment; null for no time of day. */
export function earlierToday(text: string, now: Date): string | null {
  const [, hours, minutes] = /^\s*([01]?\d|2[0-3])[:.]([0-5]\d)\s*$/.exec(text) ?? [];
  if (hours === undefined || minutes === undefined) return null;
  const at = new Date(now);
  at.setHours(Number(hours), Number(minutes), 0, 0);
  if (at > now) at.setDate(at.getDate() - 1);
  return at.toISOString();
}
