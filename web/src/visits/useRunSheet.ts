import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useRef } from "react";
import { keys } from "../api/hooks";
import { useLiveVisit } from "../api/live";
import { askSheet } from "./asking";
import type { NewEntry, Sheet } from "./outbox";
import { outbox, useOutbox } from "./sending";

// ms between two looks, where changes are told and where nobody tells
const TOLD = 30_000;
const UNTOLD = 2000;

/** A visit's run sheet and this device's entries on their way to it; `mine` is told of each that the
 * server has taken. */
export function useRunSheet(visit: string, mine: (entry: NewEntry, sheet: Sheet) => void) {
  const client = useQueryClient();
  // told of a change while an entry is on its way: its answer most likely brings it
  const heard = useRef(false);
  const askAgain = useCallback(() => {
    heard.current = false;
    void client.invalidateQueries({ queryKey: keys.visit(visit) });
  }, [client, visit]);
  const changed = useCallback(() => {
    heard.current = outbox.state().waiting.some((kept) => kept.visit === visit);
    if (!heard.current) askAgain();
  }, [visit, askAgain]);
  const finish = useCallback(
    () => void client.invalidateQueries({ queryKey: keys.finish(visit) }),
    [client, visit],
  );
  const told = useLiveVisit(visit, changed, finish);
  const sheet = useQuery({
    queryKey: keys.visit(visit),
    queryFn: () => askSheet(client, visit),
    // without an answer, who told may be away as well
    refetchInterval: ({ state }) => (told && state.status !== "error" ? TOLD : UNTOLD),
  });
  const { waiting, held, unreachable, why } = useOutbox();
  useEffect(
    () =>
      outbox.hear((kept, outcome) => {
        if (kept.visit !== visit) return;
        if (outcome.kind === "taken") mine(kept.entry, outcome.sheet);
        if (heard.current) askAgain();
      }),
    [visit, mine, askAgain],
  );
  const send = useCallback((entry: NewEntry) => outbox.add(visit, entry), [visit]);
  return {
    sheet,
    send,
    waiting: waiting.filter((kept) => kept.visit === visit),
    held: held.filter((kept) => kept.visit === visit),
    unreachable,
    why,
  };
}
