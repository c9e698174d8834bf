import "./steps/steps.css";
import { Button, Input } from "antd";
import { useEffect, useRef, useState } from "react";
import type { Problem, Shape } from "../api/client";
import { fieldSentence } from "../api/client";
import { BikeMap } from "../glass/BikeMap";
import type { Sheet } from "./outbox";
import { AmountStep } from "./steps/AmountStep";
import { CheckStep } from "./steps/CheckStep";
import { ChoiceStep } from "./steps/ChoiceStep";
import { FillStep } from "./steps/FillStep";
import { FilterStep } from "./steps/FilterStep";
import { FindingStep } from "./steps/FindingStep";
import { LeaksStep } from "./steps/LeaksStep";
import { LevelStep } from "./steps/LevelStep";
import { LookUpStep } from "./steps/LookUpStep";
import { TimerStep } from "./steps/TimerStep";
import { TorqueStep } from "./steps/TorqueStep";
import { timeWords } from "../workshop/days";
import { Refused } from "../workshop/Refused";

export interface StepProps {
  sheet: Sheet;
  step: Shape["StepShape"];
  now: () => number;
  problem: Problem | null;
  busy: boolean;
  send: (kind: string, data: Record<string, unknown>) => void;
}

const FORMS: Record<Shape["StepKind"], (props: StepProps) => React.ReactNode> = {
  "look up": LookUpStep,
  check: CheckStep,
  timer: TimerStep,
  drain: TimerStep,
  gate: ChoiceStep,
  choice: ChoiceStep,
  amount: AmountStep,
  finding: FindingStep,
  torque: TorqueStep,
  filter: FilterStep,
  fill: FillStep,
  level: LevelStep,
  leaks: LeaksStep,
};

const NOT_CORRECTED = new Set<Shape["StepKind"]>(["timer", "drain"]);

function Skip({ step, problem, send }: Pick<StepProps, "step" | "problem" | "send">) {
  const [asking, setAsking] = useState(false);
  const [reason, setReason] = useState("");
  const said = fieldSentence(problem, "reason");
  if (!asking) {
    return (
      <Button type="text" className="skip" onClick={() => setAsking(true)}>
        Skip this step
      </Button>
    );
  }
  return (
    <form
      className="skip-form"
      onSubmit={(event) => {
        event.preventDefault();
        send("skip", { reason });
      }}
    >
      <Input
        autoFocus
        aria-label={`Why is “${step.title}” skipped?`}
        placeholder="Why is it skipped?"
        value={reason}
        onChange={(event) => setReason(event.target.value)}
      />
      <Button htmlType="submit">Skip</Button>
      <Refused said={said} />
    </form>
  );
}

/** What has been said about a step that is already done. */
function Done({ step, correct }: { step: Shape["StepShape"]; correct: (() => void) | null }) {
  return (
    <div className="done-step">
      <p className="done-result">{step.entry?.result}</p>
      <p className="soft">{step.entry ? `${step.entry.by}, ${timeWords(step.entry.at)}` : ""}</p>
      {correct && (
        <Button size="large" onClick={correct}>
          Correct it
        </Button>
      )}
    </div>
  );
}

function Sentence({ problem }: { problem: Problem | null }) {
  // what belongs to a field is shown there
  if (!problem || problem.errors.some((error) => error.pointer)) return null;
  return <Refused said={problem.detail} />;
}

/** What goes with a step: where, caution, a stop, and what the last entry means. */
function Notes({ sheet, step }: Pick<StepProps, "sheet" | "step">) {
  return (
    <>
      {step.place && (
        <p className="place">
          <b>Where</b> {step.place}
        </p>
      )}
      {step.unchecked.map((said) => (
        <p key={said} className="not-checked">
          <b>Not checked</b> {said}
        </p>
      ))}
      {step.caution && (
        <p className="caution">
          <b>Caution</b> {step.caution}
        </p>
      )}
      {sheet.stopped && (
        <p className="caution" role="alert">
          <b>Stop</b> {sheet.stopped}
        </p>
      )}
      {step.remark && (
        <p className="remark" role="status">
          {step.remark}
        </p>
      )}
    </>
  );
}

/** This plug, here: the step's plug on the bike map, the others faint. */
function ThisPlug({ sheet, spot }: { sheet: Sheet; spot: Shape["SpotShape"] }) {
  const plugs = sheet.plugs.map((plug) => ({
    id: `${plug.reservoir}/${plug.part}`,
    label: `${plug.reservoir_label}, ${plug.part}`,
    role: plug.role,
    x: plug.x,
    y: plug.y,
  }));
  const here = plugs.find((plug) => plug.x === spot.x && plug.y === spot.y);
  if (!here) return null;
  return (
    <figure className="this-plug">
      <BikeMap layout={sheet.layout} plugs={plugs} here={here.id} compact />
      <figcaption>This one: {here.label}</figcaption>
    </figure>
  );
}

function Instruction({ sheet, step }: Pick<StepProps, "sheet" | "step">) {
  return (
    <div className={step.spot ? "focus-top-map" : ""}>
      <div>
        <p className="instruction">{step.instruction}</p>
        <Notes sheet={sheet} step={step} />
      </div>
      {step.spot && <ThisPlug sheet={sheet} spot={step.spot} />}
    </div>
  );
}

/** One step in focus: what to do, its caution, its instrument, one big action. */
export function StepFocus({
  readOnly,
  correcting,
  send,
  ...props
}: Omit<StepProps, "send"> & {
  readOnly: boolean;
  correcting: boolean;
  send: (kind: string, data: Record<string, unknown>, supersedes: string | null) => void;
}) {
  const { step, sheet, problem } = props;
  const [opened, setOpened] = useState(false);
  const heading = useRef<HTMLHeadingElement>(null);
  useEffect(() => heading.current?.focus(), []); // a new step: keyboard and reader start here
  const Form = FORMS[step.kind];
  const record = (kind: string, data: Record<string, unknown>) =>
    send(kind, data, correcting ? (step.entry?.id ?? null) : null);
  const showForm = !readOnly && (!correcting || opened);
  return (
    <>
      <h1 ref={heading} tabIndex={-1}>
        {step.title}
      </h1>
      <Instruction sheet={sheet} step={step} />
      <Sentence problem={problem} />
      {showForm ? (
        <Form {...props} send={record} />
      ) : (
        <Done
          step={step}
          correct={
            readOnly || NOT_CORRECTED.has(step.kind) || !step.entry ? null : () => setOpened(true)
          }
        />
      )}
      {!readOnly && !correcting && step.skippable && (
        <Skip step={step} problem={problem} send={record} />
      )}
    </>
  );
}
