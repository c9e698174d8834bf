import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { keep } from "../api/keep";
import { api, taken, type Shape } from "../api/client";
import { keys } from "../api/keys";

export type Page = Shape["SheetPage"];
export type Row = Shape["Row"];
export type Write = Shape["CellWriteRequest"];

export function useModels() {
  return useQuery({ queryKey: keys.models, queryFn: () => taken(api.GET("/api/models/")) });
}

export function useSheet(id: number) {
  return useQuery({
    queryKey: keys.sheet(id),
    queryFn: () =>
      taken(api.GET("/api/sheets/{sheet_id}/", { params: { path: { sheet_id: id } } })),
    refetchInterval: 4000,
  });
}

/** What a value being typed means, and what looks wrong about it. */
export function useReading(sheet: number, path: string, written: string, on: boolean) {
  return useQuery({
    queryKey: keys.reading(sheet, path, written),
    queryFn: () =>
      taken(
        api.GET("/api/sheets/{sheet_id}/reading/", {
          params: { path: { sheet_id: sheet }, query: { path, written } },
        }),
      ),
    enabled: on && written.trim() !== "",
    retry: false,
  });
}

/** Changes to one sheet, one after another; each answers with the whole page. */
export function useSheetChange(id: number) {
  const client = useQueryClient();
  return useMutation<Page, Error, () => Promise<Page>>({
    scope: { id: `sheet-${id}` },
    mutationFn: (ask) => ask(),
    onMutate: () => client.cancelQueries({ queryKey: keys.sheet(id) }),
    onSuccess: async (page) => {
      await keep(client, keys.sheet(page.id), page);
      void client.invalidateQueries({ queryKey: keys.models });
    },
    onError: () => void client.invalidateQueries({ queryKey: keys.sheet(id) }),
  });
}

const at = (sheet_id: number) => ({ params: { path: { sheet_id } } });

export const ask = {
  look: (id: number) => () => taken(api.GET("/api/sheets/{sheet_id}/", at(id))),
  write: (id: number, cells: Write[]) => () =>
    taken(api.PUT("/api/sheets/{sheet_id}/cells/", { ...at(id), body: { cells } })),
  check: (id: number, paths: string[]) => () =>
    taken(api.POST("/api/sheets/{sheet_id}/checks/", { ...at(id), body: { paths } })),
  /** A reservoir, or a part in one; with a `key` it is that one, however often it is sent. */
  add:
    (id: number, kind: string, reservoir: string, key = "", label = "") =>
    () =>
      taken(
        api.POST("/api/sheets/{sheet_id}/parts/", {
          ...at(id),
          body: { kind, reservoir, key, label },
        }),
      ),
  remove: (id: number, reservoir: string, part: string) => () =>
    taken(
      api.DELETE("/api/sheets/{sheet_id}/parts/", {
        params: { path: { sheet_id: id }, query: { reservoir, part } },
      }),
    ),
  copy: (id: number, sheet: number) => () =>
    taken(api.POST("/api/sheets/{sheet_id}/copy/", { ...at(id), body: { sheet, reservoirs: [] } })),
  leg: (id: number, leg: string, to: string) => () =>
    taken(api.POST("/api/sheets/{sheet_id}/leg/", { ...at(id), body: { leg, to } })),
  answer: (id: number, body: Shape["AnswerRequest"]) => () =>
    taken(api.POST("/api/sheets/{sheet_id}/answers/", { ...at(id), body })),
  approve: (id: number, unchecked: string[]) => () =>
    taken(api.POST("/api/sheets/{sheet_id}/approval/", { ...at(id), body: { unchecked } })),
  draft: (model_id: number) => () =>
    taken(api.POST("/api/models/{model_id}/draft/", { params: { path: { model_id } } })),
  create: (body: Shape["NewModelRequest"]) => () => taken(api.POST("/api/models/", { body })),
  take: (document: Record<string, unknown>) => () =>
    taken(api.POST("/api/sheets/document/", { body: document })),
};
