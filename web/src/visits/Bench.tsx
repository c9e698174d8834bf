import "./bench.css";
import { Button } from "antd";
import { useCallback, useState } from "react";
import { Link, useParams } from "react-router";
import type { Shape } from "../api/client";
import { NotThere, Waiting } from "../workshop/States";
import { Finished } from "./Finished";
import { useRunSheet, type Sheet } from "./outbox";
import { SidePanel } from "./SidePanel";
import { StepFocus } from "./StepFocus";
import { StepList } from "./StepList";
import { useClock } from "./useClock";

type Step = Shape["StepShape"];

function Banner({ waiting, unreachable }: { waiting: number; unreachable: boolean }) {
  if (!unreachable || waiting === 0) return null;
  return (
    <p className="banner" role="status">
      Not sent yet: {waiting} {waiting === 1 ? "entry" : "entries"}. Kept on this tablet, trying
      again.
    </p>
  );
}

function chosenStep(sheet: Sheet, looking: string | null): Step | undefined {
  return sheet.steps.find((step) => step.id === (looking ?? sheet.focus));
}

interface Props {
  sheet: Sheet;
  bench: ReturnType<typeof useRunSheet>;
  mayWork: boolean;
  looking: string | null;
  look: (step: string | null) => void;
}

/** The step in hand, or the one looked back at; at the end the signature. */
function InHand({ sheet, bench, mayWork, looking, look, now }: Props & { now: () => number }) {
  const step = chosenStep(sheet, looking);
  const correcting = looking !== null && step?.status !== "focus";
  function send(kind: string, data: Record<string, unknown>, supersedes: string | null) {
    if (!step) return;
    const at = new Date().toISOString();
    bench.send({ step: step.id, kind, at, data, supersedes });
  }
  if (!step || sheet.state !== "open") {
    return <Finished sheet={sheet} mayWork={mayWork} waiting={bench.waiting} />;
  }
  return (
    <>
      <StepFocus
        key={`${step.id}-${step.entry?.id ?? ""}-${correcting}`}
        sheet={sheet}
        step={step}
        now={now}
        send={send}
        problem={bench.problem}
        busy={bench.waiting > 0}
        readOnly={!mayWork}
        correcting={correcting}
      />
      {correcting && (
        <Button className="back-to-focus" onClick={() => look(null)}>
          Back to the step in hand
        </Button>
      )}
    </>
  );
}

function BenchTop(props: Props) {
  const { sheet, bench, mayWork, looking, look } = props;
  const now = useClock(sheet.now, bench.sheet.dataUpdatedAt);
  return (
    <div className="bench">
      <StepList
        sheet={sheet}
        shown={chosenStep(sheet, looking)?.id ?? ""}
        look={(stepId) => {
          bench.forget();
          look(stepId === sheet.focus ? null : stepId);
        }}
      />
      <section className="focus" aria-label="Step in focus">
        <p className="focus-bike">
          <Link to={`/bikes/${sheet.bike.id}`}>{sheet.bike.name}</Link> · {sheet.reservoir} ·{" "}
          {sheet.fluid}
        </p>
        <Banner waiting={bench.waiting} unreachable={bench.unreachable || bench.sheet.isError} />
        <InHand {...props} now={now} />
      </section>
      <SidePanel sheet={sheet} now={now} mayWork={mayWork} />
    </div>
  );
}

/** The bench: one visit's run sheet, one step in focus. */
export function Bench({ mayWork }: { mayWork: boolean }) {
  const { id = "" } = useParams();
  const [looking, setLooking] = useState<string | null>(null);
  const bench = useRunSheet(
    id,
    useCallback(() => setLooking(null), []),
  );
  const { data: sheet, error, refetch } = bench.sheet;
  if (!sheet) {
    if (error) return <NotThere error={error} again={() => void refetch()} />;
    return <Waiting what="Unrolling the run sheet" />;
  }
  return (
    <BenchTop sheet={sheet} bench={bench} mayWork={mayWork} looking={looking} look={setLooking} />
  );
}
