import { clsx } from "clsx";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useDeferredValue, useEffect, useState } from "react";
import { api, taken } from "../api/client";
import { keys } from "../api/keys";
import { Why } from "../ui/Why";
import { anything, asEntry, type Reading } from "./reading";
import painterCss from "./painter.module.css";
import textCss from "../ui/text.module.css";
import verdictCss from "../ui/verdict.module.css";

const PAUSE = 200;

/** What stands still for a moment: a finger that paints asks for nothing. */
function useSettled<T>(value: T): T {
  const [settled, setSettled] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(value), PAUSE);
    return () => clearTimeout(timer);
  }, [value]);
  return settled;
}

/** What the rules say of what is painted so far. */
export function SoFar({ visit, step, reading }: { visit: string; step: string; reading: Reading }) {
  const data = useSettled(useDeferredValue(JSON.stringify(asEntry(reading))));
  const some = anything(reading);
  const { data: verdict, isError } = useQuery({
    queryKey: keys.plugSoFar(visit, step, data),
    queryFn: () =>
      taken(
        api.POST("/api/visits/{visit_id}/verdict/", {
          params: { path: { visit_id: visit } },
          body: { step, data: JSON.parse(data) as Record<string, unknown> },
        }),
      ),
    enabled: some,
    retry: false,
    staleTime: Infinity,
    placeholderData: keepPreviousData,
  });
  if (!some)
    return (
      <p className={clsx(painterCss.soFar, textCss.soft)}>
        Paint what you see, or tap what is usual.
      </p>
    );
  if (isError || !verdict) return <p className={clsx(painterCss.soFar, textCss.soft)}>…</p>;
  return (
    <div className={painterCss.soFar} role="status">
      <p>
        <b className={clsx(verdictCss.verdict, verdictCss[`verdict-${verdict.level}`])}>
          {verdict.level}:
        </b>{" "}
        {verdict.origin}. <Why reasons={verdict.rules} />
      </p>
      <p className={textCss.soft}>{verdict.changes[0] ?? verdict.action}</p>
    </div>
  );
}
