import { useQuery } from "@tanstack/react-query";
import { api, taken, type Shape } from "../api/client";
import { keys } from "../api/keys";

export type Offer = Shape["Offer"];

/** What a visit of this bike can consist of. */
export function useOffers(bike: string) {
  return useQuery({
    queryKey: keys.offers(bike),
    queryFn: () =>
      taken(api.GET("/api/bikes/{bike_id}/offers/", { params: { path: { bike_id: bike } } })),
  });
}
