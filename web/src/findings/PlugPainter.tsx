import { clsx } from "clsx";
import { Button, Input, Slider } from "antd";
import { useState } from "react";
import { fieldSentence, type Problem } from "../api/client";
import { MATTER } from "../glass/matter";
import { Chips } from "../ui/Chips";
import { Refused } from "../ui/Refused";
import { FormMark, PaintedPlug } from "./PaintedPlug";
import { change, fresh, said, same, spread, type Painted } from "./paint";
import type { Words } from "./reading";
import controlsCss from "../ui/controls.module.css";
import painterCss from "./painter.module.css";

const MAGNET = ["holds", "ignores"] as const;
const LARGEST = ["1 mm", "2 mm", "4 mm"] as const;
const PILE = ["1 mm", "2 mm", "4 mm"] as const;
const PIECES: Painted["form"][] = ["slivers", "flakes", "chips", "fragments"];

type Brush = Pick<Painted, "form" | "matter">;

function Brushes({
  words,
  brush,
  wiping,
  take,
  wipe,
}: {
  words: Words;
  brush: Brush;
  wiping: boolean;
  take: (brush: Brush) => void;
  wipe: () => void;
}) {
  return (
    <>
      <div className={painterCss.brushes} role="group" aria-label="Form">
        {words.forms.map((form) => (
          <button
            key={form}
            type="button"
            className={clsx(painterCss.brush, !wiping && form === brush.form && painterCss.brushOn)}
            aria-pressed={!wiping && form === brush.form}
            onClick={() => take({ ...brush, form })}
          >
            <FormMark form={form} tint={MATTER[brush.matter]} />
            {form}
          </button>
        ))}
        <button
          type="button"
          className={clsx(painterCss.brush, wiping && painterCss.brushOn)}
          aria-pressed={wiping}
          onClick={wipe}
        >
          <span className={painterCss.wipeMark} aria-hidden />
          wipe off
        </button>
      </div>
      <div className={painterCss.tints} role="group" aria-label="Matter">
        {words.matters.map((matter) => (
          <button
            key={matter}
            type="button"
            className={clsx(painterCss.tint, matter === brush.matter && painterCss.tintOn)}
            aria-pressed={matter === brush.matter}
            onClick={() => take({ ...brush, matter })}
          >
            <span style={{ background: MATTER[matter] }} aria-hidden />
            {matter}
          </button>
        ))}
      </div>
    </>
  );
}

function Share({
  part,
  refused,
  set,
}: {
  part: Painted;
  refused: string;
  set: (share: string) => void;
}) {
  return (
    <div className={painterCss.share}>
      <label htmlFor="share">Share, %</label>
      <Slider
        ariaLabelForHandle="Share of the face"
        min={0}
        max={100}
        step={5}
        value={Number(part.share) || 0}
        onChange={(value) => set(String(value))}
      />
      <Input
        id="share"
        className={controlsCss.smallInput}
        inputMode="decimal"
        value={part.share}
        status={refused ? "error" : undefined}
        onChange={(event) => set(event.target.value)}
      />
    </div>
  );
}

/** A length by tapping or typing. */
function Length({
  label,
  taps,
  value,
  refused,
  set,
}: {
  label: string;
  taps: readonly string[];
  value: string;
  refused: string;
  set: (value: string) => void;
}) {
  return (
    <div className={painterCss.length}>
      <Chips
        label={label}
        words={taps}
        on={[value]}
        toggle={(word) => set(word === value ? "" : word)}
      />
      <Input
        aria-label={`${label}, mm`}
        className={controlsCss.smallInput}
        placeholder="mm"
        value={value}
        status={refused ? "error" : undefined}
        onChange={(event) => set(event.target.value)}
      />
    </div>
  );
}

/** What is said of the debris painted now, besides where it lies. */
function Details({
  part,
  problem,
  set,
}: {
  part: Painted;
  problem: Problem | null;
  set: (more: Partial<Painted>) => void;
}) {
  const pieces = PIECES.includes(part.form);
  const refused = (field: string) => fieldSentence(problem, field);
  return (
    <>
      {pieces ? (
        <Length
          label="Largest"
          taps={LARGEST}
          value={part.largest}
          refused={refused("largest")}
          set={(largest) => set({ largest })}
        />
      ) : (
        <Length
          label="Pile"
          taps={PILE}
          value={part.pile}
          refused={refused("pile")}
          set={(pile) => set({ pile })}
        />
      )}
      <div className={painterCss.length}>
        <Chips
          label="Magnet"
          words={MAGNET}
          on={part.magnet ? [part.magnet] : []}
          toggle={(word) => set({ magnet: part.magnet === word ? "" : word })}
        />
        {pieces && (
          <label className={painterCss.howMany}>
            How many
            <Input
              className={controlsCss.smallInput}
              inputMode="numeric"
              value={part.count}
              status={refused("count") ? "error" : undefined}
              onChange={(event) => set({ count: event.target.value })}
            />
          </label>
        )}
      </div>
      <Refused said={["share", "largest", "pile", "count"].map(refused).find(Boolean) ?? ""} />
    </>
  );
}

interface Props {
  parts: Painted[];
  words: Words;
  problem: Problem | null;
  busy: boolean;
  set: (parts: Painted[]) => void;
  /** A clean magnet, or the usual paste, in one tap. */
  usual: { clean: () => void; paste: () => void };
}

/** The plug's tip, painted: form is the brush, matter its tint, what it covers the share. The same by
 * keyboard: a brush, and its share. */
export function PlugPainter({ parts, words, problem, busy, set, usual }: Props) {
  const [brush, setBrush] = useState<Brush>(parts.at(-1) ?? { form: "paste", matter: "steel" });
  const [wiping, setWiping] = useState(false);
  const part = parts.find((one) => same(one, brush)) ?? fresh(brush.form, brush.matter);
  const take = (taken: Brush) => {
    setBrush({ form: taken.form, matter: taken.matter });
    setWiping(false);
  };
  return (
    <>
      <Brushes
        words={words}
        brush={brush}
        wiping={wiping}
        take={take}
        wipe={() => setWiping(!wiping)}
      />
      <div className={painterCss.painter}>
        <PaintedPlug parts={parts} brush={wiping ? null : part} change={set} />
        <div>
          <Share
            part={part}
            refused={fieldSentence(problem, "share")}
            set={(share) => set(spread(parts, part, share))}
          />
          <Details
            part={part}
            problem={problem}
            set={(more) => set(change(parts, brush, (one) => ({ ...one, ...more })))}
          />
          <PaintedParts
            parts={parts}
            take={take}
            drop={(one) => set(parts.filter((other) => other !== one))}
          />
          <div className={painterCss.usual}>
            <Button disabled={busy} onClick={usual.clean}>
              Clean
            </Button>
            <Button disabled={busy} onClick={usual.paste}>
              Usual paste
            </Button>
          </div>
        </div>
      </div>
    </>
  );
}

/** What is painted so far; each can be gone on with, or dropped. */
function PaintedParts({
  parts,
  take,
  drop,
}: {
  parts: Painted[];
  take: (brush: Brush) => void;
  drop: (part: Painted) => void;
}) {
  return (
    <ul className={painterCss.painted}>
      {parts.filter(said).map((part) => (
        <li key={`${part.form} ${part.matter}`}>
          <button type="button" onClick={() => take(part)}>
            {part.form}
            {part.matter !== "steel" && ` of ${part.matter}`}
            {part.share && `, ${part.share} %`}
          </button>
          <button
            type="button"
            aria-label={`Drop ${part.form} of ${part.matter}`}
            onClick={() => drop(part)}
          >
            ✕
          </button>
        </li>
      ))}
    </ul>
  );
}
