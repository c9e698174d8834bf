import { useMutation } from "@tanstack/react-query";
import { Button, Input } from "antd";
import { api, fieldSentence, taken } from "../../api/client";
import { Chips } from "../../ui/Chips";
import { Refused } from "../../ui/Refused";
import { useDraft } from "../draft";
import type { StepProps } from "../sheet";
import { AmountField } from "./AmountField";
import asksCss from "./asks.module.css";
import controlsCss from "../../ui/controls.module.css";

interface Draft {
  amount: string;
  by: "jug" | "scale";
  /** The empty pan on the scale. */
  tare: string;
  celsius: string;
  warmth: string;
}

const EMPTY: Draft = { amount: "", by: "jug", tare: "", celsius: "", warmth: "" };
const BY = ["jug", "scale"] as const;

/** Reads the simulated scale and its thermometer; a real pair can stand behind the same address. */
function ScaleButton({ expected, read }: { expected: string; read: (draft: Draft) => void }) {
  const weigh = useMutation({
    mutationFn: () => taken(api.GET("/api/scale/", { params: { query: { expected } } })),
    onSuccess: ({ weight, pan, celsius }) =>
      read({ amount: weight, by: "scale", tare: pan, celsius, warmth: "" }),
  });
  return (
    <>
      <Button
        className={controlsCss.wideChoice}
        disabled={weigh.isPending || !expected}
        onClick={() => weigh.mutate()}
      >
        Take from scale (simulated)
      </Button>
      <Refused said={weigh.error?.message} />
    </>
  );
}

/** With what it is measured, how warm it is, by the thermometer or by the hand, and what its pan weighs. */
function How({
  draft,
  warmths,
  refused,
  set,
}: {
  draft: Draft;
  warmths: string[];
  refused: (field: string) => string;
  set: (more: Partial<Draft>) => void;
}) {
  return (
    <div className={asksCss.warm}>
      <Chips
        label="With"
        words={BY}
        on={[draft.by]}
        toggle={(by) => set({ by, amount: "", tare: "" })}
      />
      <Chips
        label="Warmth"
        words={warmths}
        on={[draft.warmth]}
        toggle={(word) => set({ warmth: word === draft.warmth ? "" : word, celsius: "" })}
      />
      <Input
        aria-label="Thermometer, °C"
        className={controlsCss.smallInput}
        placeholder="or °C"
        value={draft.celsius}
        status={refused("celsius") ? "error" : undefined}
        onChange={(event) => set({ celsius: event.target.value, warmth: "" })}
      />
      {draft.by === "scale" && (
        <Input
          aria-label="The empty pan, g"
          className={controlsCss.smallInput}
          placeholder="pan, g"
          value={draft.tare}
          status={refused("tare") ? "error" : undefined}
          onChange={(event) => set({ tare: event.target.value })}
        />
      )}
      <Refused said={refused("celsius") || refused("tare")} />
    </div>
  );
}

/** What the jug or the scale shows; what is expected is one tap. What is drained is brought to 20 °C. */
export function AmountStep({ sheet, step, task, problem, busy, send }: StepProps) {
  const [draft, setDraft] = useDraft<Draft>(`${sheet.id}.${step.id}`, EMPTY);
  const set = (more: Partial<Draft>) => setDraft({ ...draft, ...more });
  const write = (amount: string, sure: string) => send("amount", { ...draft, amount, sure });
  const expected = step.drained ? (task?.expected_out ?? "") : "";
  const scale = draft.by === "scale";
  const likely = scale ? "" : expected;
  return (
    <>
      {step.drained && (
        <How
          draft={draft}
          warmths={sheet.words.warmths}
          refused={(field) => fieldSentence(problem, field)}
          set={set}
        />
      )}
      <AmountField
        label={scale ? "Weight with its pan, as the scale shows it" : "Amount, as the jug shows it"}
        value={draft.amount}
        kind={scale ? "mass" : "volume"}
        problem={problem}
        field="amount"
        offered={likely ? [likely] : []}
        change={(amount) => set({ amount })}
        submit={write}
      />
      <div className={controlsCss.choices}>
        <Button
          type="primary"
          className={controlsCss.bigAction}
          disabled={busy}
          onClick={() => write(draft.amount || likely, "")}
        >
          {likely && !draft.amount ? `${likely}, as expected` : "Write it down"}
        </Button>
        {step.drained && <ScaleButton expected={expected} read={setDraft} />}
      </div>
    </>
  );
}
