import { useQuery, useQueryClient, type QueryClient } from "@tanstack/react-query";
import { useCallback, useEffect } from "react";
import { api, taken } from "../api/client";
import { keys } from "../api/hooks";
import { useLiveVisit } from "../api/live";
import type { NewEntry, Sheet } from "./outbox";
import { outbox, useOutbox } from "./sending";

// ms between two looks, where changes are told and where nobody tells
const TOLD = 30_000;
const UNTOLD = 2000;

/** What the newest answer about each visit is told apart by. */
const marks = new Map<string, string>();

/** A visit's run sheet. One that is as it was is not sent again; only its clock goes on. */
async function ask(client: QueryClient, visit: string): Promise<Sheet> {
  const before = client.getQueryData<Sheet>(keys.visit(visit));
  const mark = before && marks.get(visit);
  const asked = api.GET("/api/visits/{visit_id}/", {
    params: { path: { visit_id: visit } },
    headers: mark ? { "If-None-Match": mark } : {},
  });
  const { response } = await asked;
  const now = response.headers.get("Oil-Ward-Now");
  if (response.status === 304 && before && now) return { ...before, now };
  const sheet = await taken(asked);
  marks.set(visit, response.headers.get("ETag") ?? "");
  return sheet;
}

/** A visit's run sheet and this device's entries on their way to it; `mine` is told of each that the
 * server has taken. */
export function useRunSheet(visit: string, mine: (entry: NewEntry) => void) {
  const client = useQueryClient();
  const told = useLiveVisit(visit);
  const sheet = useQuery({
    queryKey: keys.visit(visit),
    queryFn: () => ask(client, visit),
    refetchInterval: told ? TOLD : UNTOLD,
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
