import { clsx } from "clsx";
import chipsCss from "./chips.module.css";
/** Words to tap, one or several at a time; where a code stands behind them, that is what is told. */
export function Chips<Word extends string>({
  label,
  words,
  on,
  toggle,
}: {
  label: string;
  words: readonly (Word | { code: Word; words: string })[];
  on: readonly Word[];
  toggle: (word: Word) => void;
}) {
  const shown = words.map((one) => (typeof one === "string" ? { code: one, words: one } : one));
  return (
    <div className={chipsCss.chips} role="group" aria-label={label}>
      <span className={chipsCss.chipsLabel}>{label}</span>
      {shown.map(({ code: word, words: said }) => (
        <button
          key={word}
          type="button"
          className={clsx(chipsCss.chip, on.includes(word) && chipsCss.chipOn)}
          aria-pressed={on.includes(word)}
          onClick={() => toggle(word)}
        >
          {said}
        </button>
      ))}
    </div>
  );
}

/** A list with a word put in, or taken out again. */
export function toggled<Word>(on: readonly Word[], word: Word): Word[] {
  return on.includes(word) ? on.filter((one) => one !== word) : [...on, word];
}
