import { useQuery } from "@tanstack/react-query";
import { api, taken } from "../../api/client";
import { keys } from "../../api/keys";

/** What stands of oneself, with the units there are to read in. */
export function useOwnPage() {
  return useQuery({ queryKey: keys.own, queryFn: () => taken(api.GET("/api/own/")) }).data;
}
