import "./bench.css";
import { Button } from "antd";
import { useCallback, useState } from "react";
import { Link, useParams } from "react-router";
import { NotThere, Waiting } from "../workshop/States";
import { Finished } from "./Finished";
import { useRunSheet, type NewEntry, type Sheet } from "./outbox";
import { inHand, isClosed, isOpen, taskOf } from "./sheet";
import { SidePanel } from "./SidePanel";
import { StepFocus } from "./StepFocus";
import { StepList } from "./StepList";
import { Stops } from "./Stops";
import { useClock } from "./useClock";

function Banner({ waiting, unreachable }: { waiting: number; unreachable: boolean }) {
  if (!unreachable || waiting === 0) return null;
  return (
    <p className="banner" role="status">
      Not sent yet: {waiting} {waiting === 1 ? "entry" : "entries"}. Kept on this tablet, trying
      again.
    </p>
  );
}

type Send = (
  step: string,
  kind: string,
  data: Record<string, unknown>,
  more?: Partial<Pick<NewEntry, "supersedes" | "accepts">>,
) => void;

interface Props {
  sheet: Sheet;
  bench: ReturnType<typeof useRunSheet>;
  mayWork: boolean;
  looking: string | null;
  look: (step: string | null) => void;
}

function useSend(bench: Props["bench"]): Send {
  return (step, kind, data, more) =>
    bench.send({ step, kind, at: new Date().toISOString(), data, supersedes: null, ...more });
}

/** The step in hand, or the one looked back at; at the end the signature. */
function InHand({ sheet, bench, mayWork, looking, look, now }: Props & { now: () => number }) {
  const step = inHand(sheet, looking);
  const send = useSend(bench);
  if (!step || sheet.state !== "open") {
    return <Finished sheet={sheet} mayWork={mayWork} waiting={bench.waiting} />;
  }
  const correcting = isClosed(step);
  const refused = bench.refused?.entry.step === step.id ? bench.refused : null;
  return (
    <>
      <StepFocus
        key={`${step.id}-${step.entry?.id ?? ""}-${correcting}`}
        sheet={sheet}
        step={step}
        task={taskOf(sheet, step)}
        now={now}
        send={(kind, data, supersedes) => send(step.id, kind, data, { supersedes })}
        refused={refused}
        accept={(entry, accepts) =>
          send(entry.step, entry.kind, entry.data ?? {}, { supersedes: entry.supersedes, accepts })
        }
        busy={bench.waiting > 0}
        readOnly={!mayWork}
      />
      {step.id !== sheet.focus && (
        <Button className="back-to-focus" onClick={() => look(null)}>
          Back to what is next
        </Button>
      )}
    </>
  );
}

function Whose({ sheet, looking }: { sheet: Sheet; looking: string | null }) {
  const step = inHand(sheet, looking);
  const task = step && taskOf(sheet, step);
  return (
    <p className="focus-bike">
      <Link to={`/bikes/${sheet.bike.id}`}>{sheet.bike.name}</Link> ·{" "}
      {task ? [task.label, task.fluid].filter(Boolean).join(" · ") : sheet.title}
    </p>
  );
}

function BenchTop(props: Props) {
  const { sheet, bench, mayWork, looking, look } = props;
  const now = useClock(sheet.now, bench.sheet.dataUpdatedAt);
  const send = useSend(bench);
  const go = (step: string) => {
    bench.forget();
    look(step === sheet.focus ? null : step);
  };
  return (
    <div className="bench">
      <StepList sheet={sheet} shown={inHand(sheet, looking)?.id ?? ""} look={go} />
      <section className="focus" aria-label="Step in focus" aria-busy={bench.waiting > 0}>
        <Whose sheet={sheet} looking={looking} />
        <Banner waiting={bench.waiting} unreachable={bench.unreachable || bench.sheet.isError} />
        <Stops
          sheet={sheet}
          answer={mayWork ? (stop, data) => send(stop, "answered", data) : null}
        />
        <InHand {...props} now={now} />
      </section>
      <SidePanel sheet={sheet} now={now} mayWork={mayWork} look={go} />
    </div>
  );
}

/** The bench: one visit, one step in focus. */
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
  const stays = sheet.steps.find((step) => step.id === looking);
  const shown = stays && (isOpen(stays) || isClosed(stays) || stays.status === "blocked");
  return (
    <BenchTop
      sheet={sheet}
      bench={bench}
      mayWork={mayWork}
      looking={shown ? looking : null}
      look={setLooking}
    />
  );
}
