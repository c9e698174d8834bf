import { useEffect, useState } from "react";

const WISH = "oilward.call";

/** Which waits have run out and were not called yet; `called` is told of them. Long over is not called. */
export function runOut(ends: readonly string[], now: number, called: Set<string>): string[] {
  const late = (end: string) => now - Date.parse(end);
  const found = ends.filter((end) => !called.has(end) && late(end) >= 0 && late(end) < 60_000);
  found.forEach((end) => called.add(end));
  return found;
}

/** Two short tones, made here: no file, no network. */
function tone(): void {
  const sound = new AudioContext();
  for (const [n, pitch] of [660, 880].entries()) {
    const one = sound.createOscillator();
    one.frequency.value = pitch;
    one.connect(sound.destination);
    one.start(sound.currentTime + n * 0.3);
    one.stop(sound.currentTime + n * 0.3 + 0.25);
  }
}

/** Calls when a wait runs out, if this tablet is wished to. */
export function useCall(ends: readonly string[], now: () => number) {
  const [wished, setWished] = useState(() => localStorage.getItem(WISH) === "yes");
  const [called] = useState(() => new Set<string>());
  const listed = ends.join();
  useEffect(() => {
    const look = () => {
      if (runOut(listed.split(","), now(), called).length > 0 && wished) tone();
    };
    const timer = setInterval(look, 1000);
    return () => clearInterval(timer);
  }, [listed, now, called, wished]);
  const wish = (on: boolean) => {
    try {
      localStorage.setItem(WISH, on ? "yes" : "no");
    } catch {
      // no room on the device: wished for until this page is closed
    }
    setWished(on);
    if (on) tone();
  };
  return { wished, wish };
}
