import { Button, Select } from "antd";
import { useState } from "react";
import type { Loose, Words } from "./reading";
import controlsCss from "../ui/controls.module.css";
import painterCss from "./painter.module.css";

const HOW_MANY = ["1", "3", "10", "30"] as const;

function Word<One extends string>({
  label,
  value,
  words,
  set,
}: {
  label: string;
  value: One;
  words: readonly One[];
  set: (word: One) => void;
}) {
  const options = words.map((word) => ({ value: word, label: word }));
  return <Select aria-label={label} value={value} options={options} onChange={set} />;
}

const FIRST: Loose = { place: "filter", form: "flakes", matter: "steel", count: "3" };

/** Debris in the oil, the pan, a filter that was cut open, the screen, or a fork leg. */
export function Elsewhere({
  words,
  places,
  loose,
  set,
}: {
  words: Words;
  places: Loose["place"][];
  loose: Loose[];
  set: (loose: Loose[]) => void;
}) {
  const besides: Loose["place"][] = places.filter((place) => place !== "plug");
  // a filter that was cut open shows most
  const place = besides.includes(FIRST.place) ? FIRST.place : (besides[0] ?? FIRST.place);
  const [next, setNext] = useState<Loose>({ ...FIRST, place });
  const take = (more: Partial<Loose>) => setNext({ ...next, ...more });
  return (
    <div className={painterCss.elsewhere}>
      <div className={controlsCss.choices}>
        <Word
          label="Where else"
          value={next.place}
          words={besides}
          set={(place) => take({ place })}
        />
        <Word
          label="Its form"
          value={next.form}
          words={words.forms}
          set={(form) => take({ form })}
        />
        <Word
          label="Its matter"
          value={next.matter}
          words={words.matters}
          set={(matter) => take({ matter })}
        />
        <label>
          about{" "}
          <Word
            label="How many"
            value={next.count}
            words={HOW_MANY}
            set={(count) => take({ count })}
          />
        </label>
        <Button onClick={() => set([...loose, next])}>Add it</Button>
      </div>
      <Added loose={loose} drop={(index) => set(loose.filter((_, other) => other !== index))} />
    </div>
  );
}

function Added({ loose, drop }: { loose: Loose[]; drop: (index: number) => void }) {
  return (
    <ul className={painterCss.painted}>
      {loose.map((one, index) => (
        <li key={index}>
          <span>
            {one.place}: {one.form} of {one.matter}, about {one.count}
          </span>
          <button
            type="button"
            aria-label={`Drop ${one.form} of ${one.matter} in the ${one.place}`}
            onClick={() => drop(index)}
          >
            ✕
          </button>
        </li>
      ))}
    </ul>
  );
}
