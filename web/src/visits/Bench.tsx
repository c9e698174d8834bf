import { Button } from "antd";
import { useCallback, useEffect, useState } from "react";
import { Link, useParams } from "react-router";
import { NotThere, Waiting } from "../ui/States";
import { Alarms } from "./Alarms";
import { hasDraft } from "./draft";
import { Finished } from "./Finished";
import { NotWritten } from "./NotWritten";
import { entryOf, type NewEntry, type SendMore } from "./entry";
import type { Sheet } from "./outbox";
import { WaitsFor } from "./Hands";
import { inHand, isAside, isClosed, isOpen, taskOf, type Step } from "./sheet";
import { SidePanel } from "./SidePanel";
import { StepFocus } from "./StepFocus";
import { HandsCalled, NotStrapped } from "./Stance";
import { StepList } from "./StepList";
import { guardTaps } from "./tapGuard";
import { Stops } from "./Stops";
import { useClock } from "./useClock";
import { useRunSheet } from "./useRunSheet";
import asksCss from "./asks/asks.module.css";
import benchCss from "./bench.module.css";

interface Props {
  sheet: Sheet;
  bench: ReturnType<typeof useRunSheet>;
  mayWork: boolean;
  /** The step in hand; none at the end. */
  step: Step | undefined;
  /** How many of this device's entries have been taken; each begins a form anew. */
  turn: number;
  look: (step: string | null) => void;
}

const typedIn = (sheet: Sheet) => (step: string) => hasDraft(sessionStorage, `${sheet.id}.${step}`);

/** Writes something down at a step. */
function at(bench: Props["bench"], step: string): SendMore {
  return (kind, data, more) => bench.send(entryOf(step, kind, data, more));
}

/** The step in hand, or the one looked back at; at the end the signature. */
function InHand({ sheet, bench, mayWork, step, turn, look, now }: Props & { now: () => number }) {
  if (!step || sheet.state !== "open") {
    return <Finished sheet={sheet} mayWork={mayWork} waiting={bench.waiting.length} />;
  }
  const correcting = isClosed(step);
  return (
    <>
      <StepFocus
        key={`${step.id}-${turn}-${correcting}`}
        sheet={sheet}
        step={step}
        task={taskOf(sheet, step)}
        now={now}
        send={at(bench, step.id)}
        refused={bench.held.find((kept) => kept.entry.step === step.id) ?? null}
        accept={(entry, accepts) => bench.send({ ...entry, id: crypto.randomUUID(), accepts })}
        busy={bench.waiting.length > 0}
        readOnly={!mayWork}
      />
      {step.id !== sheet.focus && (
        <Button className={asksCss.backToFocus} onClick={() => look(null)}>
          Back to what is next
        </Button>
      )}
    </>
  );
}

function Whose({ sheet, step }: Pick<Props, "sheet" | "step">) {
  const task = step && taskOf(sheet, step);
  return (
    <p className={benchCss.focusBike}>
      <Link to={`/bikes/${sheet.bike.id}`}>{sheet.bike.name}</Link> ·{" "}
      {task ? [task.label, task.fluid].filter(Boolean).join(" · ") : sheet.title}
    </p>
  );
}

function BenchTop(props: Props) {
  const { sheet, bench, mayWork, step, look } = props;
  const now = useClock(sheet.now, bench.sheet.dataUpdatedAt);
  const go = (id: string) => look(id === sheet.focus ? null : id);
  const writing = bench.waiting.length > 0;
  const aside = mayWork ? at(bench, step?.id ?? sheet.steps.at(-1)?.id ?? "") : null;
  return (
    <div className={benchCss.bench}>
      <StepList sheet={sheet} shown={step?.id ?? ""} look={go} />
      <section className={benchCss.focus} aria-label="Step in focus" aria-busy={writing}>
        <Alarms />
        <Whose sheet={sheet} step={step} />
        <NotWritten
          sheet={sheet}
          waiting={bench.waiting}
          held={bench.held.filter((kept) => kept.entry.step !== step?.id)}
          silent={bench.unreachable || bench.sheet.isError}
          why={bench.why}
          look={go}
        />
        <WaitsFor sheet={sheet} send={aside} />
        <NotStrapped sheet={sheet} step={step} send={aside} />
        <HandsCalled sheet={sheet} send={aside} />
        <Stops
          sheet={sheet}
          answer={mayWork ? (stop, data) => at(bench, stop)("answered", data) : null}
          look={go}
        />
        <InHand {...props} now={now} />
      </section>
      <SidePanel sheet={sheet} now={now} aside={aside} look={go} />
    </div>
  );
}

/** Which step is in hand. Only this device's own entries and its own looking about move it on. */
function stepInHand(sheet: Sheet | undefined, looking: string | null, last: string | null) {
  if (!sheet) return undefined;
  const looked = sheet.steps.find((step) => step.id === looking);
  const shown = looked && (isOpen(looked) || isClosed(looked) || looked.status === "blocked");
  return inHand(sheet, shown ? looking : null, last, typedIn(sheet));
}

/** The bench: one visit, one step in focus. */
export function Bench({ mayWork }: { mayWork: boolean }) {
  const { id = "" } = useParams();
  useEffect(() => guardTaps(document), []);
  const [looking, setLooking] = useState<string | null>(null);
  const [last, setLast] = useState<string | null>(null);
  const [turn, setTurn] = useState(0);
  const mine = useCallback(({ step, kind }: NewEntry, told: Sheet) => {
    const stays = isAside(told, kind) && kind !== "opens again";
    if (stays || kind === "regrade") return;
    setLooking((looked) => (looked === step ? null : looked));
    setLast((was) => (was === step ? null : was));
    setTurn((count) => count + 1);
  }, []);
  const bench = useRunSheet(id, mine);
  const { data: sheet, error, refetch } = bench.sheet;
  const step = stepInHand(sheet, looking, last);
  const shown = step?.id ?? null;
  if (shown !== last) setLast(shown);
  if (!sheet) {
    if (error) return <NotThere error={error} again={() => void refetch()} />;
    return <Waiting what="Unrolling the run sheet" />;
  }
  const look = (to: string | null) => {
    setLooking(to);
    setLast(null);
  };
  return (
    <BenchTop sheet={sheet} bench={bench} mayWork={mayWork} step={step} turn={turn} look={look} />
  );
}
