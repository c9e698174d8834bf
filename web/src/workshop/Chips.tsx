/** Words to tap, one or several at a time. */
export function Chips<Word extends string>({
  label,
  words,
  on,
  toggle,
}: {
  label: string;
  words: readonly Word[];
  on: readonly Word[];
  toggle: (word: Word) => void;
}) {
  return (
    <div className="chips" role="group" aria-label={label}>
      <span className="chips-label">{label}</span>
      {words.map((word) => (
        <button
          key={word}
          type="button"
          className={on.includes(word) ? "chip chip-on" : "chip"}
          aria-pressed={on.includes(word)}
          onClick={() => toggle(word)}
        >
          {word}
        </button>
      ))}
    </div>
  );
}

/** A list with a word put in, or taken out again. */
export function toggled<Word>(on: readonly Word[], word: Word): Word[] {
  return on.includes(word) ? on.filter((one) => one !== word) : [...on, word];
}
