import { Button, Input, Slider } from "antd";
import { fieldSentence, type Problem } from "../../api/client";
import { PlugTip } from "../../glass/PlugTip";
import { useDraft } from "../outbox";
import type { StepProps } from "../StepFocus";
import { Refused } from "../../workshop/Refused";

const FORMS = ["paste", "fuzz", "slivers", "flakes", "chips", "fragments"];
const MATTERS = [
  "steel",
  "aluminium",
  "brass",
  "bronze",
  "friction",
  "sealant",
  "rubber",
  "unknown",
];
const LOOKS = ["clear", "dark", "milky", "sparkle", "fuel smell", "burnt smell"];
const NOTHING: Draft = { form: "paste", matter: "steel", share: "20", largest: "" };

interface Draft {
  form: string;
  matter: string;
  share: string;
  largest: string;
}

function Chips({
  label,
  words,
  on,
  toggle,
}: {
  label: string;
  words: string[];
  on: string[];
  toggle: (word: string) => void;
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

function PartEditor({
  draft,
  problem,
  change,
}: {
  draft: Draft;
  problem: Problem | null;
  change: (draft: Draft) => void;
}) {
  const share = fieldSentence(problem, "share");
  const largest = fieldSentence(problem, "largest");
  return (
    <>
      <Chips
        label="Form"
        words={FORMS}
        on={[draft.form]}
        toggle={(form) => change({ ...draft, form })}
      />
      <Chips
        label="Matter"
        words={MATTERS}
        on={[draft.matter]}
        toggle={(matter) => change({ ...draft, matter })}
      />
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
      <Refused said={share || largest} />
    </>
  );
}

function asPart(draft: Draft) {
  return {
    form: draft.form,
    matter: draft.matter,
    share_percent: draft.share,
    largest: draft.largest,
  };
}

/** What the plug and the oil showed: form, matter, share, largest; the common cases are one tap. */
export function FindingStep({ sheet, step, problem, busy, send }: StepProps) {
  const key = `${sheet.id}.${step.id}`;
  const [draft, setDraft] = useDraft<Draft>(`${key}.part`, NOTHING);
  const [kept, setKept] = useDraft<Draft[]>(`${key}.kept`, []);
  const [oil, setOil] = useDraft<string[]>(`${key}.oil`, []);
  const all = [...kept, draft];
  const drawn = all.map((part) => ({ ...part, share: (Number(part.share) || 0) / 100 }));
  const toggle = (look: string) =>
    setOil(oil.includes(look) ? oil.filter((word) => word !== look) : [...oil, look]);
  return (
    <div className="finding">
      <div className="finding-tip">
        <PlugTip parts={drawn} size={160} label="The magnet as described" />
        {kept.map((part, index) => (
          <button
            key={index}
            className="chip"
            onClick={() => setKept(kept.filter((_, i) => i !== index))}
          >
            {part.form} of {part.matter}, {part.share} % ✕
          </button>
        ))}
        <Button
          className="wide-choice"
          disabled={busy}
          onClick={() => send("finding", { parts: [], oil })}
        >
          Clean
        </Button>
        <Button
          className="wide-choice"
          disabled={busy}
          onClick={() => send("finding", { parts: [asPart(NOTHING)], oil })}
        >
          Usual paste
        </Button>
      </div>
      <div>
        <PartEditor draft={draft} problem={problem} change={setDraft} />
        <Chips label="Oil" words={LOOKS} on={oil} toggle={toggle} />
        <div className="choices">
          <Button
            onClick={() => {
              setKept(all);
              setDraft({ ...NOTHING, share: "5" });
            }}
          >
            And something else
          </Button>
          <Button
            type="primary"
            className="big-action"
            disabled={busy}
            onClick={() => send("finding", { parts: all.map(asPart), oil })}
          >
            Write it down
          </Button>
        </div>
      </div>
    </div>
  );
}
