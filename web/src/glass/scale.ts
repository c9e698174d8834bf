const START = -210;
const SWEEP = 240;

/** Where a wrench's scale begins and ends, degrees. */
export const ENDS = [START, START + SWEEP] as const;

/** The next round number a scale would be marked in: 1, 2, 5, 10 … */
function niceStep(rough: number): number {
  const power = 10 ** Math.floor(Math.log10(rough));
  return ([1, 2, 5].find((factor) => factor * power >= rough) ?? 10) * power;
}

/** The numbers a wrench's scale is marked with. */
export function scaleMarks(low: number, high: number): number[] {
  const step = niceStep((high - low) / 6);
  const first = Math.ceil(low / step) * step;
  return Array.from({ length: Math.floor((high - first) / step) + 1 }, (_, i) => first + step * i);
}

/** Where a value of the scale points, degrees; beyond its ends it stays at them. */
export function scaleAngle(value: number, low: number, high: number): number {
  const share = (value - low) / (high - low || 1);
  return START + Math.min(Math.max(share, 0), 1) * SWEEP;
}
