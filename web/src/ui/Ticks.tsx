import { clsx } from "clsx";
import ticksCss from "./ticks.module.css";

/** Rows to tick, large enough for a glove. */
export function Ticks({
  items,
  ticked,
  change,
}: {
  /** Codes with what they are called. */
  items: { code: string; words: string }[];
  ticked: string[];
  change: (ticked: string[]) => void;
}) {
  return (
    <div className={ticksCss.ticks}>
      {items.map(({ code, words }) => {
        const on = ticked.includes(code);
        return (
          <button
            key={code}
            type="button"
            role="checkbox"
            aria-checked={on}
            className={clsx(ticksCss.tick, on && ticksCss.tickOn)}
            onClick={() => change(on ? ticked.filter((one) => one !== code) : [...ticked, code])}
          >
            <span className={ticksCss.tickBox} aria-hidden>
              {on ? "✓" : ""}
            </span>
            {words}
          </button>
        );
      })}
    </div>
  );
}
