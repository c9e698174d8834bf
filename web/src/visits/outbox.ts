import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useRef, useState } from "react";
import { api, Refusal, taken, type Problem, type Shape } from "../api/client";
import { keys } from "../api/hooks";

export type NewEntry = Shape["NewEntryRequest"];
export type Sheet = Shape["RunSheet"];

/** What the server would not have, and what it said of it. */
export interface Refused {
  entry: NewEntry;
  problem: Problem;
}

const RETRY = 1500;

function shelf(visit: string): string {
  return `oilward.outbox.${visit}`;
}

function load(visit: string): NewEntry[] {
  try {
    return JSON.parse(localStorage.getItem(shelf(visit)) ?? "[]") as NewEntry[];
  } catch {
    return [];
  }
}

async function post(visit: string, entry: NewEntry): Promise<Sheet> {
  const path = { visit_id: visit };
  // by this tablet's own clock, as `at` is: the server measures how far it is off
  const body = { ...entry, sent_at: new Date().toISOString() };
  return taken(api.POST("/api/visits/{visit_id}/entries/", { params: { path }, body }));
}

/** Entries kept on this device until the server has them. */
function useKept(visit: string) {
  const [waiting, setWaiting] = useState<NewEntry[]>(() => load(visit));
  const keep = useCallback(
    (entries: NewEntry[]) => {
      localStorage.setItem(shelf(visit), JSON.stringify(entries));
      setWaiting(entries);
    },
    [visit],
  );
  return { waiting, keep };
}

/** Sends the first kept entry, and again every so often while there is one. */
function useSending(waiting: NewEntry[], flush: () => Promise<void>) {
  useEffect(() => {
    if (waiting.length === 0) return;
    const soon = setTimeout(() => void flush(), 0);
    const again = setInterval(() => void flush(), RETRY);
    return () => {
      clearTimeout(soon);
      clearInterval(again);
    };
  }, [waiting, flush]);
}

/** The way of entries to the server, and what it says of one it will not have. */
function useFlush(
  visit: string,
  keep: (entries: NewEntry[]) => void,
  accepted: (entry: NewEntry) => void,
) {
  const client = useQueryClient();
  const [refused, setRefused] = useState<Refused | null>(null);
  const [unreachable, setUnreachable] = useState(false);
  const sending = useRef(false);
  const flush = useCallback(async () => {
    const [first, ...rest] = load(visit);
    if (!first || sending.current) return;
    sending.current = true;
    try {
      const answer = await post(visit, first);
      await client.cancelQueries({ queryKey: keys.visit(visit) });
      client.setQueryData(keys.visit(visit), answer);
      keep(rest);
      setUnreachable(false);
      accepted(first);
    } catch (error) {
      if (error instanceof Refusal && error.problem.status === 401) {
        // signed out meanwhile: the entry waits here until somebody signs in
        void client.invalidateQueries({ queryKey: keys.session });
      } else if (error instanceof Refusal && error.problem.status !== 429) {
        setRefused({ entry: first, problem: error.problem });
        keep(rest);
        void client.invalidateQueries({ queryKey: keys.visit(visit) });
      } else {
        setUnreachable(true);
      }
    } finally {
      sending.current = false;
    }
  }, [accepted, client, keep, visit]);
  return { flush, refused, setRefused, unreachable };
}

/**
 * A visit's run sheet and the entries on their way to it. An entry is kept on this device until the
 * server has it; sending it twice does nothing twice, because its id is made here.
 */
export function useRunSheet(visit: string, accepted: (entry: NewEntry) => void) {
  const sheet = useQuery({
    queryKey: keys.visit(visit),
    queryFn: () =>
      taken(api.GET("/api/visits/{visit_id}/", { params: { path: { visit_id: visit } } })),
    refetchInterval: 2000,
  });
  const { waiting, keep } = useKept(visit);
  const { flush, refused, setRefused, unreachable } = useFlush(visit, keep, accepted);
  useSending(waiting, flush);
  const send = useCallback(
    (entry: Omit<NewEntry, "id">) => {
      setRefused(null);
      keep([...load(visit), { ...entry, id: crypto.randomUUID() }]);
    },
    [keep, setRefused, visit],
  );
  const forget = () => setRefused(null);
  return { sheet, send, refused, forget, waiting: waiting.length, unreachable };
}
