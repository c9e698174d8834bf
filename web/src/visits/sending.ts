import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useSyncExternalStore } from "react";
import { api } from "../api/client";
import { keys } from "../api/hooks";
import { sendPicture } from "../findings/pictureHere";
import { keepSheet } from "./asking";
import { dropDrafts } from "./draft";
import { Outbox, outcomeOf, type NewEntry, type Outcome, type State } from "./outbox";

/** The pictures an entry tells of: they are there before it is. */
function picturesOf({ data }: NewEntry): string[] {
  const { pictures } = data as { pictures?: { id: string }[] };
  return Array.isArray(pictures) ? pictures.map(({ id }) => id) : [];
}

async function post(visit: string, entry: NewEntry): Promise<Outcome> {
  const path = { visit_id: visit };
  // by this tablet's own clock, as `at` is: the server measures how far it is off
  const body = { ...entry, sent_at: new Date().toISOString() };
  for (const id of picturesOf(entry)) {
    const sent = await sendPicture(id);
    if (sent.kind === "unreachable") return { kind: "unreachable", seconds: null };
    if (sent.kind === "refused") return sent;
  }
  try {
    const sent = api.POST("/api/visits/{visit_id}/entries/", { params: { path }, body });
    const { data, error, response } = await sent;
    return outcomeOf(response.status, data ?? error, (name) => response.headers.get(name));
  } catch {
    return { kind: "unreachable", seconds: null };
  }
}

/** One tab at a time where the browser can say so (not without a secure address); sending twice does
 * nothing twice all the same. */
async function lock(work: () => Promise<void>): Promise<void> {
  const locks = (navigator as { locks?: LockManager }).locks;
  if (locks) await locks.request("oilward.outbox", work);
  else await work();
}

/** This device's one outbox, for all visits. */
export const outbox = new Outbox({
  shelf: localStorage,
  post,
  lock,
  now: Date.now,
  after: (milliseconds, work) => {
    const timer = setTimeout(work, milliseconds);
    return () => clearTimeout(timer);
  },
});

export function useOutbox(): State {
  return useSyncExternalStore(outbox.subscribe, outbox.state);
}

/** Sends this person's entries wherever they are in the house, and shows what comes of them. */
export function useSending(person: string, name: string): void {
  const client = useQueryClient();
  useEffect(() => {
    window.addEventListener("storage", outbox.changed);
    const deaf = outbox.hear(async ({ visit, entry }, outcome) => {
      if (outcome.kind === "taken") {
        // what was written down is no longer half typed
        dropDrafts(sessionStorage, `${visit}.${entry.step}`);
        await keepSheet(client, outcome.sheet, outcome.mark);
      } else if (outcome.kind === "signed out") {
        void client.invalidateQueries({ queryKey: keys.session });
      } else if (outcome.kind === "refused") {
        void client.invalidateQueries({ queryKey: keys.visit(visit) });
      }
    });
    return () => {
      window.removeEventListener("storage", outbox.changed);
      deaf();
    };
  }, [client]);
  useEffect(() => outbox.signedIn(person, name), [person, name]);
}
