import "./ticks.css";

/** Rows to tick, large enough for a glove. */
export function Ticks({
  items,
  ticked,
  change,
}: {
  items: string[];
  ticked: string[];
  change: (ticked: string[]) => void;
}) {
  return (
    <div className="ticks">
      {items.map((item) => {
        const on = ticked.includes(item);
        return (
          <button
            key={item}
            type="button"
            role="checkbox"
            aria-checked={on}
            className={on ? "tick tick-on" : "tick"}
            onClick={() => change(on ? ticked.filter((t) => t !== item) : [...ticked, item])}
          >
            <span className="tick-box" aria-hidden>
              {on ? "✓" : ""}
            </span>
            {item}
          </button>
        );
      })}
    </div>
  );
}
