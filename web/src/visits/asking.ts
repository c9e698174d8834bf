import type { QueryClient } from "@tanstack/react-query";
import { api, taken } from "../api/client";
import { keep } from "../api/keep";
import { keys } from "../api/hooks";
import type { Sheet } from "./outbox";

/** What the newest answer about each visit is told apart by. */
const marks = new Map<string, string>();

/** Shows a sheet that came with an answer, and what it is told apart by. */
export function keepSheet(client: QueryClient, sheet: Sheet, mark: string): Promise<void> {
  marks.set(sheet.id, mark);
  return keep(client, keys.visit(sheet.id), sheet);
}

/** Asks for a visit's run sheet. One that is as it was is not sent again; only its clock goes on. */
export async function askSheet(client: QueryClient, visit: string): Promise<Sheet> {
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
