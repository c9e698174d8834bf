import { useLayoutEffect, useRef, useState } from "react";
import { ask, useSheetChange, type Page, type Row } from "./sheets";

export interface Source {
  document: string;
  page: string;
}

/** What a cell's box holds the keyboard with: the field itself, or the one inside a list. */
function fieldIn(cell: HTMLElement | null | undefined): HTMLElement | null {
  if (!cell) return null;
  return cell.matches("input, textarea, button") ? cell : cell.querySelector("input, button");
}

/** Stand on a field with what it holds selected, so that typing replaces it. */
export function stand(cell: HTMLElement | undefined | null) {
  const field = fieldIn(cell);
  field?.focus();
  if (field instanceof HTMLInputElement && !field.readOnly) field.select();
}

/** The next value to type, in reading order. */
export function focusNext(from: HTMLElement) {
  const here = from.closest<HTMLElement>("[data-cell]");
  const all = [...document.querySelectorAll<HTMLElement>("[data-cell]")];
  if (here) stand(all[all.indexOf(here) + 1]);
}

const PATIENCE = 40;

/** The first value whose path begins so, as soon as it is drawn. */
export function standOnFirst(start: string, tries = PATIENCE) {
  const cell = document.querySelector<HTMLElement>(`[data-cell^="${start}"]`);
  if (cell) {
    cell.scrollIntoView({ block: "center" });
    stand(cell);
  } else if (tries > 0) setTimeout(() => standOnFirst(start, tries - 1), 25);
}

/** A value that goes off the sheet under the hands, as levels do with an exact quantity, passes the
 * keyboard on to the next one. */
export function usePassOn(path: string) {
  useLayoutEffect(
    () => () => {
      const from = document.activeElement?.closest<HTMLElement>("[data-cell]");
      if (from?.dataset["cell"] === path) focusNext(from);
    },
    [path],
  );
}

function rowOf(page: Page, path: string): Row | undefined {
  const rows = page.reservoirs.flatMap((block) => [
    ...block.plates.flatMap((plate) => plate.rows),
    ...block.parts.flatMap((part) => part.rows),
  ]);
  return rows.find((row) => row.path === path);
}

/** What is being typed into a value, and writing it down against the revision it began from. */
export function useTyping(sheet: number, row: Row) {
  const [typing, setTyping] = useState<string | null>(null);
  const began = useRef(row.revision);
  const sent = useRef<string | null>(null);
  const change = useSheetChange(sheet);
  /** Whether this is on its way already: leaving a field and pressing its button are one act. */
  const isSent = (text: string) => change.isPending && sent.current === text;
  /** With `seen`, what somebody else wrote and the writer has read: it may be written over. */
  const save = (text: string, source: Source, seen?: string) => {
    sent.current = text;
    change.mutate(async () => {
      if (seen !== undefined) {
        const now = rowOf(await ask.look(sheet)(), row.path);
        if ((now?.written ?? "") === seen) began.current = now?.revision ?? 0;
      }
      const cell = { path: row.path, written: text, revision: began.current, ...source };
      const page = await ask.write(sheet, [cell])();
      began.current = rowOf(page, row.path)?.revision ?? 0;
      // what was typed on meanwhile stays
      setTyping((now) => (now === text ? null : now));
      return page;
    });
  };
  const type = (text: string) => {
    if (change.error) change.reset(); // what was said was of the words before
    if (typing === null) began.current = row.revision;
    setTyping(text);
  };
  const settle = () => {
    began.current = row.revision;
  };
  return { typing, type, save, isSent, settle, change, drop: () => setTyping(null) };
}
