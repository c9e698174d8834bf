import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback } from "react";
import { Link, useLocation } from "react-router";
import { api, taken } from "../api/client";
import { keys } from "../api/hooks";
import { useLiveHands } from "../api/live";
import { timeWords } from "../ui/days";
import benchCss from "./bench.module.css";

// ms between two looks, where changes are told and where nobody tells
const TOLD = 60_000;
const UNTOLD = 10_000;

/** Who calls for a second pair of hands, on every screen but the caller's and at that bench itself. */
export function Called({ me }: { me: string }) {
  const client = useQueryClient();
  const { pathname } = useLocation();
  const changed = useCallback(
    () => void client.invalidateQueries({ queryKey: keys.hands }),
    [client],
  );
  const told = useLiveHands(changed);
  const calls = useQuery({
    queryKey: keys.hands,
    queryFn: () => taken(api.GET("/api/visits/hands/")),
    refetchInterval: told ? TOLD : UNTOLD,
  });
  const others = (calls.data ?? []).filter(
    ({ who, visit }) => who !== me && pathname !== `/visits/${visit}`,
  );
  return others.map(({ visit, bike, by, since }) => (
    <Link key={visit} to={`/visits/${visit}`} className={benchCss.called} role="status">
      <b>{by} needs a second pair of hands</b> at the {bike}, since {timeWords(since)}
    </Link>
  ));
}
