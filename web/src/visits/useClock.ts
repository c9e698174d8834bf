import { useCallback, useEffect, useState } from "react";

/**
 * The server's clock, carried on by this device, so that timers agree on every tablet.
 * `serverNow` is what it said in an answer that came in at `receivedAt` (this device's clock).
 */
export function useClock(serverNow: string | undefined, receivedAt: number): () => number {
  const offset = serverNow ? Date.parse(serverNow) - receivedAt : 0;
  return useCallback(() => Date.now() + offset, [offset]);
}

/** Draws again every so often, for things that count. */
export function useTick(milliseconds: number): void {
  const [, setTick] = useState(0);
  useEffect(() => {
    const timer = setInterval(() => setTick((tick) => tick + 1), milliseconds);
    return () => clearInterval(timer);
  }, [milliseconds]);
}
