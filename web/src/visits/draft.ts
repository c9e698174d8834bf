import { useCallback, useState } from "react";

type Shelf = Pick<Storage, "getItem" | "setItem" | "removeItem">;
type Keys = Pick<Storage, "length" | "key">;

const name = (key: string) => `oilward.draft.${key}`;

/** What was half typed under this key, or `initial` where nothing, or nothing readable, was. */
export function keptDraft<T>(shelf: Shelf, key: string, initial: T): T {
  try {
    const kept = shelf.getItem(name(key));
    return kept === null ? initial : (JSON.parse(kept) as T);
  } catch {
    return initial;
  }
}

export function keepDraft<T>(shelf: Shelf, key: string, value: T): void {
  try {
    shelf.setItem(name(key), JSON.stringify(value));
  } catch {
    // no room on the device: what is typed stays on the screen
  }
}

export function dropDraft(shelf: Shelf, key: string): void {
  shelf.removeItem(name(key));
}

/** What is kept under this key, and under those that begin with it and a dot. */
function keysUnder(shelf: Keys, key: string): string[] {
  const keys = Array.from({ length: shelf.length }, (_, n) => shelf.key(n) ?? "");
  return keys.filter((kept) => kept === name(key) || kept.startsWith(`${name(key)}.`));
}

/** Lets go of all that was half typed at a step: its work is done elsewhere. */
export function dropDrafts(shelf: Shelf & Keys, key: string): void {
  keysUnder(shelf, key).forEach((kept) => shelf.removeItem(kept));
}

/** Whether something was half typed under this key, or under one that begins with it and a dot. */
export function hasDraft(shelf: Keys, key: string): boolean {
  return keysUnder(shelf, key).length > 0;
}

/** A half-typed value that survives a reload, until it is written down. */
export function useDraft<T>(key: string, initial: T): [T, (value: T) => void, () => void] {
  const [value, setValue] = useState<T>(() => keptDraft(sessionStorage, key, initial));
  const set = useCallback(
    (next: T) => {
      keepDraft(sessionStorage, key, next);
      setValue(next);
    },
    [key],
  );
  const drop = useCallback(() => dropDraft(sessionStorage, key), [key]);
  return [value, set, drop];
}
