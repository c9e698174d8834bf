import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useState } from "react";
import { keys, useSession } from "./hooks";

// how long a burst of changes is gathered before many things are asked for at once, ms
const GATHER = 300;
const HANDS = ["hands"];

/** The address where changes are told as they happen; empty where nobody tells. */
function address(events: string, topics: readonly string[]): string {
  const { protocol, hostname, origin } = window.location;
  const at = events.startsWith(":") ? `${protocol}//${hostname}${events}` : `${origin}${events}`;
  const asked = topics.map((topic) => `topic=${encodeURIComponent(topic)}`).join("&");
  return events ? `${at}?${asked}` : "";
}

/**
 * Calls `changed` as soon as one of these topics changes (none named: any), and whenever something may
 * have been missed. Answers whether somebody tells; where nobody does, one has to ask every so often.
 */
function useLive(topics: readonly string[], changed: (topic: string) => void): boolean {
  const events = useSession().data?.events ?? "";
  const [told, setTold] = useState(false);
  const url = address(events, topics);
  useEffect(() => {
    if (!url) return;
    const source = new EventSource(url, { withCredentials: true });
    source.onopen = () => setTold(true);
    source.onerror = () => setTold(false);
    source.onmessage = (told: MessageEvent<string>) => changed(told.data);
    return () => {
      source.close();
      setTold(false);
    };
  }, [url, changed]);
  return told;
}

/** Calls `changed` as soon as something is written down in a visit, and `finish` when it is known anew
 * when it will be through. */
export function useLiveVisit(visit: string, changed: () => void, finish: () => void): boolean {
  const told = useCallback(
    (topic: string) => {
      if (!topic.startsWith("visit/")) finish();
      if (!topic.startsWith("finish/")) changed();
    },
    [changed, finish],
  );
  return useLive([`visit/${visit}`, `finish/${visit}`], told);
}

/** Calls `changed` when somebody calls for a second pair of hands, or has them. */
export function useLiveHands(changed: () => void): boolean {
  return useLive(HANDS, changed);
}

/** The ward is asked for again soon after anything changes anywhere. */
export function useLiveWard(): boolean {
  const client = useQueryClient();
  const [changed] = useState(() => {
    let soon: ReturnType<typeof setTimeout> | undefined;
    return (topic: string) => {
      if (/^(finish|ahead)\//.test(topic)) return;
      soon ??= setTimeout(() => {
        soon = undefined;
        void client.invalidateQueries({ queryKey: keys.wards });
      }, GATHER);
    };
  });
  return useLive([], changed);
}
