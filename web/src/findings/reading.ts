import type { Shape } from "../api/client";
import { fresh, said, type Painted } from "./paint";

export type Words = Shape["FindingWords"];
type Place = Shape["DebrisPlace"];

/** Debris somewhere else than on the plug: counted, for there is no face it could cover. */
export interface Loose {
  place: Place;
  form: Painted["form"];
  matter: Painted["matter"];
  count: string;
}

export interface Pictured {
  id: string;
  x?: number;
  y?: number;
}

export const PAN = ["clean before", "not clean"] as const;
/** How the pan was before; empty: nobody said. */
export type PanWords = "" | (typeof PAN)[number];

/** A plug as somebody reads it, before it is written down. */
export interface Reading {
  painted: Painted[];
  loose: Loose[];
  oil: Words["looks"];
  pan: PanWords;
  dipstick: boolean;
  seal: boolean;
  kept: string;
  note: string;
  pictures: Pictured[];
}

export const NOTHING: Reading = {
  painted: [],
  loose: [],
  oil: [],
  pan: "",
  dipstick: false,
  seal: false,
  kept: "",
  note: "",
  pictures: [],
};

export const USUAL: Painted = { ...fresh("paste", "steel"), share: "20" };

/** Whether there is anything to write down; a clean magnet is said by its own button. */
export function anything(reading: Reading): boolean {
  const { painted, loose, oil, dipstick, seal } = reading;
  return painted.some(said) || loose.length > 0 || oil.length > 0 || dipstick || seal;
}

/** Debris that was counted, as it is sent. */
export const partOf = (one: Loose) => ({ ...one, share_percent: "0" });

function onThePlug(part: Painted) {
  return {
    form: part.form,
    matter: part.matter,
    share_percent: part.share || "0",
    largest: part.largest,
    pile: part.pile,
    count: part.count,
    place: "plug",
    ...(part.magnet && { magnetic: part.magnet === "holds" }),
  };
}

/** What is sent of it. */
export function asEntry(reading: Reading): Shape["GradedTyped"] {
  return {
    parts: [...reading.painted.filter(said).map(onThePlug), ...reading.loose.map(partOf)],
    oil: reading.oil,
    note: reading.note,
    kept: reading.kept,
    ...(reading.pan && { pan_clean: reading.pan === PAN[0] }),
    dipstick_flakes: reading.dipstick,
    seal_missing: reading.seal,
    pictures: reading.pictures.map(({ id, x, y }) => ({
      id,
      ...(x !== undefined && { x: String(x) }),
      ...(y !== undefined && { y: String(y) }),
    })),
  };
}
