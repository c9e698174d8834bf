import type { Shape } from "../api/client";

export type Form = Shape["DebrisForm"];
export type Matter = Shape["Matter"];

/** One kind of debris on the plug: the cells of the face it covers, and its share in percent as it was
 * painted or typed. */
export interface Painted {
  form: Form;
  matter: Matter;
  share: string;
  cells: number[];
  pile: string;
  largest: string;
  count: string;
  /** What a second magnet does; empty: not tried. */
  magnet: "" | "holds" | "ignores";
}

export interface Cell {
  x: number;
  y: number;
}

const MIDDLE = 50;
const FACE = 35;
const PITCH = 3;

/** The magnet's face as cells, from its middle outwards: what is typed fills it in that order. */
export const CELLS: readonly Cell[] = faceCells();

function faceCells(): Cell[] {
  const half = Math.floor(FACE / PITCH);
  const along = Array.from({ length: 2 * half + 1 }, (_, n) => MIDDLE + (n - half) * PITCH);
  const inside = along
    .flatMap((x) => along.map((y) => ({ x, y })))
    .filter((cell) => far(cell) <= FACE);
  return inside.sort((a, b) => far(a) - far(b) || a.x - b.x || a.y - b.y);
}

function far({ x, y }: Cell): number {
  return Math.hypot(x - MIDDLE, y - MIDDLE);
}

/** The cells a brush touches on its way from one point to another. */
export function touched(from: Cell, to: Cell, brush: number): number[] {
  const long = Math.hypot(to.x - from.x, to.y - from.y);
  const steps = Math.max(1, Math.ceil(long / (brush / 2)));
  const way = Array.from({ length: steps + 1 }, (_, n) => ({
    x: from.x + ((to.x - from.x) * n) / steps,
    y: from.y + ((to.y - from.y) * n) / steps,
  }));
  return CELLS.flatMap((cell, index) =>
    way.some((at) => Math.hypot(cell.x - at.x, cell.y - at.y) <= brush) ? [index] : [],
  );
}

export function fresh(form: Form, matter: Matter): Painted {
  return { form, matter, share: "", cells: [], pile: "", largest: "", count: "", magnet: "" };
}

export const same = (a: Pick<Painted, "form" | "matter">, b: Pick<Painted, "form" | "matter">) =>
  a.form === b.form && a.matter === b.matter;

/** Whether anything was said of it. */
export const said = (part: Painted) =>
  part.cells.length > 0 ||
  [part.share, part.largest, part.count].some((text) => text.trim() !== "");

/** The share of so many cells, in whole percent: nobody judges finer. What lies there is never nothing. */
function percent(cells: number): string {
  return cells ? String(Math.max(1, Math.floor((cells / CELLS.length) * 100))) : "";
}

function withCells(part: Painted, cells: number[]): Painted {
  return { ...part, cells, share: percent(cells.length) };
}

/** A stroke of the brush: its cells are this part's now, and nobody else's. */
export function stroke(parts: Painted[], brush: Painted, cells: number[]): Painted[] {
  return change(wipe(parts, cells, brush), brush, (part) =>
    withCells(part, [...new Set([...part.cells, ...cells])]),
  );
}

/** Cells wiped clean, but for those of one part. */
export function wipe(parts: Painted[], cells: number[], but?: Painted): Painted[] {
  const gone = new Set(cells);
  return parts.map((part) => {
    const left = part.cells.filter((cell) => !gone.has(cell));
    return (but && same(part, but)) || left.length === part.cells.length
      ? part
      : withCells(part, left);
  });
}

/** A share typed or slid to: as many free cells from the middle outwards as that is, the text as typed. */
export function spread(parts: Painted[], brush: Painted, share: string): Painted[] {
  const typed = Number(share);
  const wanted = Number.isFinite(typed)
    ? Math.round((Math.min(Math.max(typed, 0), 100) / 100) * CELLS.length)
    : null;
  const taken = new Set(parts.flatMap((part) => (same(part, brush) ? [] : part.cells)));
  return change(parts, brush, (part) => {
    if (wanted === null) return { ...part, share };
    const free = CELLS.flatMap((_, index) => (taken.has(index) ? [] : [index]));
    return { ...part, share, cells: free.slice(0, wanted) };
  });
}

/** The part of this brush changed, made where there is none yet. */
export function change(
  parts: Painted[],
  brush: Pick<Painted, "form" | "matter">,
  make: (part: Painted) => Painted,
): Painted[] {
  const there = parts.some((part) => same(part, brush));
  const all = there ? parts : [...parts, fresh(brush.form, brush.matter)];
  return all.map((part) => (same(part, brush) ? make(part) : part));
}
