import { Button, Input, Slider } from "antd";
import { fieldSentence, type Problem, type Shape } from "../../api/client";
import { PlugTip } from "../../glass/PlugTip";
import { useDraft } from "../draft";
import type { StepProps } from "../sheet";
import { Refused } from "../../workshop/Refused";

const USUAL: Draft = {
  form: "paste",
  matter: "steel",
  share: "20",
  largest: "",
  count: "",
  magnet: "",
  place: "plug",
};
const MAGNET = ["holds", "ignores"] as const;
const PAN = ["clean before", "not clean"] as const;
const FLAKES = "its plating flakes";

type Words = Shape["FindingWords"];

interface Draft {
  form: Shape["DebrisForm"];
  matter: Shape["Matter"];
  share: string;
  largest: string;
  count: string;
  /** What a second magnet does; empty: not tried. */
  magnet: "" | (typeof MAGNET)[number];
  place: Shape["PlacesEnum"];
}

/** What is said of the whole finding besides its parts. */
interface Around {
  pan: "" | (typeof PAN)[number];
  dipstick: boolean;
}

function Chips<Word extends string>({
  label,
  words,
  on,
  toggle,
}: {
  label: string;
  words: Word[];
  on: Word[];
  toggle: (word: Word) => void;
}) {
  return (
    <div className="chips" role="group" aria-label={label}>
      <span className="chips-label">{label}</span>
      {words.map((word) => (
        <button
          key={word}
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

/** How many pieces there are, and what a second magnet does with them. */
function Tried({ draft, change }: { draft: Draft; change: (draft: Draft) => void }) {
  return (
    <div className="tried">
      <label htmlFor="count">How many</label>
      <Input
        id="count"
        className="small-input"
        inputMode="numeric"
        value={draft.count}
        onChange={(event) => change({ ...draft, count: event.target.value })}
      />
      <Chips
        label="Magnet"
        words={[...MAGNET]}
        on={draft.magnet ? [draft.magnet] : []}
        toggle={(word) => change({ ...draft, magnet: draft.magnet === word ? "" : word })}
      />
    </div>
  );
}

function Size({
  draft,
  share,
  largest,
  change,
}: {
  draft: Draft;
  /** What was refused of either. */
  share: string;
  largest: string;
  change: (draft: Draft) => void;
}) {
  return (
    <div className="share">
      <label htmlFor="share">Share, %</label>
      <Slider
        aria-label="Share of the face"
        min={0}
        max={100}
        step={5}
        value={Number(draft.share) || 0}
        onChange={(value) => change({ ...draft, share: String(value) })}
      />
      <Input
        id="share"
        className="small-input"
        inputMode="decimal"
        value={draft.share}
        status={share ? "error" : undefined}
        onChange={(event) => change({ ...draft, share: event.target.value })}
      />
      <label htmlFor="largest">Largest, mm</label>
      <Input
        id="largest"
        className="small-input"
        value={draft.largest}
        status={largest ? "error" : undefined}
        onChange={(event) => change({ ...draft, largest: event.target.value })}
      />
    </div>
  );
}

function PartEditor({
  draft,
  words,
  problem,
  change,
}: {
  draft: Draft;
  words: Words;
  problem: Problem | null;
  change: (draft: Draft) => void;
}) {
  const share = fieldSentence(problem, "share");
  const largest = fieldSentence(problem, "largest");
  return (
    <>
      <Chips
        label="Form"
        words={words.forms}
        on={[draft.form]}
        toggle={(form) => change({ ...draft, form })}
      />
      <Chips
        label="Where"
        words={words.places}
        on={[draft.place]}
        toggle={(place) => change({ ...draft, place })}
      />
      <Chips
        label="Matter"
        words={words.matters}
        on={[draft.matter]}
        toggle={(matter) => change({ ...draft, matter })}
      />
      <Size draft={draft} share={share} largest={largest} change={change} />
      <Tried draft={draft} change={change} />
      <Refused said={share || largest || fieldSentence(problem, "count")} />
    </>
  );
}

function asPart(draft: Draft) {
  return {
    form: draft.form,
    matter: draft.matter,
    share_percent: draft.share,
    largest: draft.largest,
    count: draft.count,
    place: draft.place,
    ...(draft.magnet && { magnetic: draft.magnet === "holds" }),
  };
}

/** The magnet as described so far, what is kept of it, and the two usual cases in one tap. */
function Tip({
  all,
  kept,
  busy,
  drop,
  usual,
}: {
  all: Draft[];
  kept: Draft[];
  busy: boolean;
  drop: (index: number) => void;
  usual: (parts: Draft[]) => void;
}) {
  const drawn = all
    .filter((part) => part.place === "plug")
    .map((part) => ({ ...part, share: (Number(part.share) || 0) / 100 }));
  return (
    <div className="finding-tip">
      <PlugTip parts={drawn} size={160} label="The magnet as described" />
      {kept.map((part, index) => (
        <button key={index} className="chip" onClick={() => drop(index)}>
          {part.form} of {part.matter}, {part.share} % ✕
        </button>
      ))}
      <Button className="wide-choice" disabled={busy} onClick={() => usual([])}>
        Clean
      </Button>
      <Button className="wide-choice" disabled={busy} onClick={() => usual([USUAL])}>
        Usual paste
      </Button>
    </div>
  );
}

/** The pan it was caught in, and a gearbox's plated dipstick. */
function WholeFinding({
  gearbox,
  around,
  change,
}: {
  gearbox: boolean;
  around: Around;
  change: (around: Around) => void;
}) {
  return (
    <>
      <Chips
        label="Pan"
        words={[...PAN]}
        on={around.pan ? [around.pan] : []}
        toggle={(pan) => change({ ...around, pan: around.pan === pan ? "" : pan })}
      />
      {gearbox && (
        <Chips
          label="Dipstick"
          words={[FLAKES]}
          on={around.dipstick ? [FLAKES] : []}
          toggle={() => change({ ...around, dipstick: !around.dipstick })}
        />
      )}
    </>
  );
}

/** What the plug and the oil showed: form, matter, share, largest; the common cases are one tap. */
export function FindingStep({ sheet, step, task, problem, busy, send }: StepProps) {
  const key = `${sheet.id}.${step.id}`;
  const [draft, setDraft] = useDraft<Draft>(`${key}.part`, USUAL);
  const [kept, setKept] = useDraft<Draft[]>(`${key}.kept`, []);
  const [oil, setOil] = useDraft<Words["looks"]>(`${key}.oil`, []);
  const all = [...kept, draft];
  const [note, setNote] = useDraft(`${key}.note`, "");
  const [around, setAround] = useDraft<Around>(`${key}.around`, { pan: "", dipstick: false });
  const write = (parts: Draft[]) =>
    send("finding", {
      parts: parts.map(asPart),
      oil,
      note,
      ...(around.pan && { pan_clean: around.pan === PAN[0] }),
      dipstick_flakes: around.dipstick,
    });
  const toggle = (look: Words["looks"][number]) =>
    setOil(oil.includes(look) ? oil.filter((word) => word !== look) : [...oil, look]);
  const another = () => {
    setKept(all);
    setDraft({ ...USUAL, share: "5" });
  };
  return (
    <div className="finding">
      <Tip
        all={all}
        kept={kept}
        busy={busy}
        drop={(index) => setKept(kept.filter((_, i) => i !== index))}
        usual={write}
      />
      <div>
        <PartEditor draft={draft} words={sheet.words} problem={problem} change={setDraft} />
        <Chips label="Oil" words={sheet.words.looks} on={oil} toggle={toggle} />
        <WholeFinding gearbox={task?.kind === "gearbox"} around={around} change={setAround} />
        <Input
          aria-label="Note on the finding"
          placeholder="Note, if there is one"
          value={note}
          onChange={(event) => setNote(event.target.value)}
        />
        <div className="choices">
          <Button onClick={another}>And something else</Button>
          <Button type="primary" className="big-action" disabled={busy} onClick={() => write(all)}>
            Write it down
          </Button>
        </div>
      </div>
    </div>
  );
}
