import { useQuery } from "@tanstack/react-query";
import { useCallback, useEffect } from "react";
import { api, taken } from "../api/client";
import { keys } from "../api/hooks";
import type { NewEntry } from "./outbox";
import { outbox, useOutbox } from "./sending";

/** A visit's run sheet and this device's entries on their way to it; `mine` is told of each that the
 * server has taken. */
export function useRunSheet(visit: string, mine: (entry: NewEntry) => void) {
  const sheet = useQuery({
    queryKey: keys.visit(visit),
    queryFn: () =>
      taken(api.GET("/api/visits/{visit_id}/", { params: { path: { visit_id: visit } } })),
    refetchInterval: 2000,
  });
  const { waiting, held, unreachable } = useOutbox();
  useEffect(
    () =>
      outbox.hear((kept, outcome) => {
        if (kept.visit === visit && outcome.kind === "taken") mine(kept.entry);
      }),
    [visit, mine],
  );
  const send = useCallback(
    (entry: Omit<NewEntry, "id">) => outbox.add(visit, { ...entry, id: crypto.randomUUID() }),
    [visit],
  );
  return {
    sheet,
    send,
    waiting: waiting.filter((kept) => kept.visit === visit),
    held: held.filter((kept) => kept.visit === visit),
    unreachable,
  };
}
