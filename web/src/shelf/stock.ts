import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { keep } from "../api/keep";
import { api, taken, type Shape } from "../api/client";
import { keys } from "../api/keys";

export function useStock() {
  return useQuery({ queryKey: keys.stock, queryFn: () => taken(api.GET("/api/shelf/stock/")) });
}

export function useStockChange() {
  const client = useQueryClient();
  return useMutation<Shape["Stock"], Error, () => Promise<Shape["Stock"]>>({
    mutationFn: (ask) => ask(),
    onSuccess: async (stock) => {
      await keep(client, keys.stock, stock);
      void client.invalidateQueries({ queryKey: keys.ledgers });
      void client.invalidateQueries({ queryKey: keys.plans });
    },
    onError: () => void client.invalidateQueries({ queryKey: keys.stock }),
  });
}

type Written<T> = Omit<T, "act">;

/** What is done to the stock has an id of its own: sent twice, it is done once. */
export const put = (bottle: Written<Shape["BottleFormRequest"]>) => {
  const body = { ...bottle, act: crypto.randomUUID() };
  return () => taken(api.PUT("/api/shelf/bottles/", { body }));
};

export const take = (use: Written<Shape["BottleUseRequest"]>) => {
  const body = { ...use, act: crypto.randomUUID() };
  return () => taken(api.POST("/api/shelf/bottles/", { body }));
};

export const count = (seal: Written<Shape["SealFormRequest"]>) => {
  const body = { ...seal, act: crypto.randomUUID() };
  return () => taken(api.PUT("/api/shelf/seals/", { body }));
};

/** What happened to the bottles of a fluid, or to everything, once it is asked for. */
export function useLedger(fluid: number | undefined, enabled: boolean) {
  return useQuery({
    queryKey: keys.ledger(fluid),
    queryFn: () => taken(api.GET("/api/shelf/ledger/", { params: { query: { fluid } } })),
    enabled,
  });
}
