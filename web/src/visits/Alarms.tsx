import { clsx } from "clsx";
import { useEffect, useRef, useState } from "react";
import alarmsCss from "./alarms.module.css";

const LINE = 44; // px, as high as one is drawn

/** What stands above the step and must not be scrolled out of mind, in one line; `mild` where nobody gets
 * hurt by it. */
export const alarm = (line: string, mild = false) => ({
  "data-alarm": line,
  ...(mild && { "data-mild": "" }),
});

/** One line for each alarm that is scrolled out of sight; a tap goes back to it. */
export function Alarms() {
  const box = useRef<HTMLDivElement>(null);
  const [away, setAway] = useState<Element[]>([]);
  useEffect(() => {
    const frame = box.current?.parentElement;
    const all = [...(frame?.querySelectorAll("[data-alarm]") ?? [])];
    const watch = new IntersectionObserver(
      (seen) => {
        const away = new Map(seen.map((one) => [one.target, isAbove(one)]));
        setAway((was) => {
          const now = all.filter((one) => away.get(one) ?? was.includes(one));
          return same(was, now) ? was : now;
        });
      },
      { rootMargin: `-${LINE}px 0px 0px 0px` },
    );
    all.forEach((one) => watch.observe(one));
    return () => watch.disconnect();
  });
  return (
    <div ref={box} className={alarmsCss.alarms}>
      <div>
        {away
          .filter((one) => one.isConnected)
          .map((one, index) => (
            <button
              key={index}
              type="button"
              className={clsx(alarmsCss.alarm, one.hasAttribute("data-mild") && alarmsCss.mild)}
              onClick={() => one.scrollIntoView({ block: "center" })}
            >
              {one.getAttribute("data-alarm")}
            </button>
          ))}
      </div>
    </div>
  );
}

function isAbove({ isIntersecting, boundingClientRect }: IntersectionObserverEntry): boolean {
  return !isIntersecting && boundingClientRect.bottom <= LINE;
}

function same(one: Element[], other: Element[]): boolean {
  return one.length === other.length && one.every((element, index) => element === other[index]);
}
