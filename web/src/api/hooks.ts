import {
  keepPreviousData,
  useMutation,
  useQuery,
  useQueryClient,
  type QueryClient,
} from "@tanstack/react-query";
import { keep } from "./keep";
import { api, taken, type Shape } from "./client";
import { keys, type WardWanted } from "./keys";

export { keys, type WardWanted };

export function useSession() {
  return useQuery({
    queryKey: keys.session,
    queryFn: () => taken(api.GET("/api/session/")),
    staleTime: Infinity,
  });
}

/** Whether who is signed in has a right. */
export function useMay(right: Shape["RightsEnum"]): boolean {
  return useSession().data?.rights.includes(right) ?? false;
}

/** Somebody else is here now, or nobody: what was shown to the one before is forgotten. */
export async function another(client: QueryClient, session: Shape["Session"]) {
  await keep(client, keys.session, session);
  client.removeQueries({ predicate: (query) => query.queryKey[0] !== keys.session[0] });
}

export function useSignIn() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: Shape["CredentialsRequest"]) => taken(api.POST("/api/session/", { body })),
    onSuccess: (session) => keep(client, keys.session, session),
  });
}

export function useSignOut() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: () => taken(api.DELETE("/api/session/")),
    onSuccess: (session) => another(client, session),
  });
}

export function useWard(wanted: WardWanted, told: boolean) {
  return useQuery({
    queryKey: keys.ward(wanted),
    queryFn: () => taken(api.GET("/api/ward/", { params: { query: wanted } })),
    refetchInterval: told ? 60_000 : 10_000,
    placeholderData: keepPreviousData,
  });
}

export function useBike(id: string) {
  return useQuery({
    queryKey: keys.bike(id),
    queryFn: () => taken(api.GET("/api/bikes/{bike_id}/", { params: { path: { bike_id: id } } })),
  });
}

export function useShelf() {
  return useQuery({ queryKey: keys.shelf, queryFn: () => taken(api.GET("/api/shelf/")) });
}

export function useOpenVisit() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: Shape["NewVisitRequest"]) => taken(api.POST("/api/visits/", { body })),
    onSuccess: async (sheet) => {
      await keep(client, keys.visit(sheet.id), sheet);
      void client.invalidateQueries({ queryKey: keys.bike(sheet.bike.id) });
    },
  });
}

/** A line of bench arithmetic, answered while it is typed. */
export function useQuickSum(text: string) {
  return useQuery({
    queryKey: keys.quickSum(text),
    queryFn: () => taken(api.GET("/api/quick-sum/", { params: { query: { text } } })),
    enabled: text.trim() !== "",
    retry: false,
    staleTime: Infinity,
    placeholderData: keepPreviousData,
  });
}

/** What a typed amount means, while it is typed. */
export function useUnderstood(
  text: string,
  kind: "volume" | "torque" | "distance" | "mass",
  unit = "",
) {
  return useQuery({
    queryKey: keys.amount(kind, unit, text),
    queryFn: () => taken(api.GET("/api/amount/", { params: { query: { kind, text, unit } } })),
    enabled: text.trim() !== "",
    retry: false,
    staleTime: Infinity,
  });
}

/** A write that changes how a bike stands: its page and the ward are asked for again. */
export function useBikeWrite<Body>(
  bike: string,
  write: (body: Body) => Promise<unknown>,
  done: () => void,
) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: write,
    onSuccess: () => {
      void client.invalidateQueries({ queryKey: keys.bike(bike) });
      void client.invalidateQueries({ queryKey: keys.wards });
      done();
    },
  });
}
