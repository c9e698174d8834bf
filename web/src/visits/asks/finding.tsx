import { Button } from "antd";
import { Around } from "../../findings/Around";
import { PlugPainter } from "../../findings/PlugPainter";
import { SoFar } from "../../findings/SoFar";
import { anything, asEntry, NOTHING, USUAL, type Reading } from "../../findings/reading";
import { useDraft } from "../draft";
import type { StepProps } from "../sheet";
import asksCss from "./asks.module.css";
import controlsCss from "../../ui/controls.module.css";

/** What the plug and the oil showed, painted; the common cases are one tap. A second pair of eyes reads it
 * without seeing what the first saw. */
export function FindingStep(props: StepProps & { regrade?: boolean }) {
  const { sheet, step, task, problem, busy, send, regrade } = props;
  const kind = regrade ? "regrade" : "finding";
  const [reading, setReading] = useDraft<Reading>(`${sheet.id}.${step.id}.${kind}`, NOTHING);
  const set = (more: Partial<Reading>) => setReading({ ...reading, ...more });
  const write = (all: Reading) => send(kind, asEntry(all));
  return (
    <div className={asksCss.finding}>
      {step.no_magnet ? (
        <Button
          className={controlsCss.bigAction}
          disabled={busy}
          onClick={() => write({ ...reading, painted: [] })}
        >
          Nothing to see
        </Button>
      ) : (
        <PlugPainter
          parts={reading.painted}
          words={sheet.words}
          problem={problem}
          busy={busy}
          set={(painted) => set({ painted })}
          usual={{
            clean: () => write({ ...reading, painted: [] }),
            paste: () => write({ ...reading, painted: [USUAL] }),
          }}
        />
      )}
      <Around
        bike={sheet.bike.id}
        gearbox={task?.kind === "gearbox"}
        words={sheet.words}
        places={step.found_in}
        reading={reading}
        set={set}
      />
      <div className={asksCss.findingFoot}>
        <SoFar visit={sheet.id} step={step.id} reading={reading} />
        <Button
          type="primary"
          className={controlsCss.bigAction}
          disabled={busy || !anything(reading)}
          onClick={() => write(reading)}
        >
          Write it down
        </Button>
      </div>
    </div>
  );
}
