/** A plug, filter or screw at its place on the map: shares of its width and height. */
export interface Placed {
  id: string;
  label: string;
  role: string;
  x: number;
  y: number;
  /** What else the list beside the map says of it. */
  more?: string;
}

/** A share of the map, kept inside it, in hundredths. */
export const inside = (share: number) => Math.min(1, Math.max(0, Math.round(share * 100) / 100));

/** The plugs with their numbers: from above down, from left to right. */
export function numbered(plugs: readonly Placed[]): { plug: Placed; number: number }[] {
  return [...plugs]
    .sort((a, b) => a.y - b.y || a.x - b.x || a.id.localeCompare(b.id))
    .map((plug, index) => ({ plug, number: index + 1 }));
}

const W = 1000;
const H = 700;
/** How far apart two symbols have to stand to be read, in the map's own units. */
export const APART = 50;
const RINGS = [1, 2, 3];
const EIGHTHS = [0, 2, 4, 6, 1, 3, 5, 7].map((n) => (n * Math.PI) / 4);

/** Where each symbol is drawn, in the map's units: at its plug, or moved aside as little as keeps it
 * off the others. */
export function spread(
  plugs: readonly Placed[],
  apart = APART,
): Map<string, { x: number; y: number }> {
  const found = new Map<string, { x: number; y: number }>();
  const free = (x: number, y: number) =>
    x > 20 &&
    x < W - 20 &&
    y > 20 &&
    y < H - 20 &&
    [...found.values()].every((other) => Math.hypot(other.x - x, other.y - y) >= apart);
  for (const { plug } of numbered(plugs)) {
    const at = { x: plug.x * W, y: plug.y * H };
    const aside = RINGS.flatMap((ring) =>
      EIGHTHS.map((turn) => ({
        x: at.x + ring * apart * Math.cos(turn),
        y: at.y + ring * apart * Math.sin(turn),
      })),
    );
    found.set(plug.id, [at, ...aside].find(({ x, y }) => free(x, y)) ?? at);
  }
  return found;
}
