import type { Shape } from "../api/client";

/** An entry as it is sent: one shape a kind, so that what one kind says cannot be sent as another's. */
export type NewEntry = Shape["NewEntryRequest"];
export type Kind = NewEntry["kind"];
/** What an entry of a kind says. */
export type DataOf<K extends Kind> = Extract<NewEntry, { kind: K }>["data"];
export type More = Partial<Pick<NewEntry, "step" | "supersedes" | "accepts" | "at" | "remembered">>;
/** Writes one down at the step in hand, or at another step of it; or corrects one. */
export type Send = <K extends Kind>(
  kind: K,
  data: DataOf<K>,
  more?: Pick<More, "step" | "supersedes">,
) => void;
export type SendMore = <K extends Kind>(kind: K, data: DataOf<K>, more?: More) => void;

/** Of which description of the work this device's entries are. */
const DESCRIPTION = 3;

/** An entry of a kind, made now, under an id of its own. */
export function entryOf<K extends Kind>(
  step: string,
  kind: K,
  data: DataOf<K>,
  more: More = {},
): Extract<NewEntry, { kind: K }> {
  const made = {
    id: crypto.randomUUID(),
    step,
    kind,
    data,
    at: new Date().toISOString(),
    supersedes: null,
    description: DESCRIPTION,
    ...more,
  };
  // the kind and its data belong together by this function's own signature
  return made as unknown as Extract<NewEntry, { kind: K }>;
}
