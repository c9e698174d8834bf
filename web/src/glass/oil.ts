/** Oil from fresh (0) to spent (1): honey to coffee. */
const TINTS = [
  [224, 168, 52],
  [190, 116, 30],
  [128, 70, 24],
  [70, 40, 20],
] as const;

export function oilTint(age: number): string {
  const at = Math.min(Math.max(age, 0), 1) * (TINTS.length - 1);
  const index = Math.min(Math.floor(at), TINTS.length - 2);
  const from = TINTS[index] ?? TINTS[0];
  const to = TINTS[index + 1] ?? TINTS[0];
  const mixed = from.map((value, i) =>
    Math.round(value + ((to[i] ?? value) - value) * (at - index)),
  );
  return `rgb(${mixed.join(" ")})`;
}
