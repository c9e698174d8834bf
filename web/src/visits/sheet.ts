import type { Problem, Shape } from "../api/client";
import type { Kind, Send } from "./entry";
import type { Sheet } from "./outbox";

export type Step = Shape["StepShape"];
export type Task = Shape["TaskShape"];
/** Something to choose or to tick: its code is sent, its words are shown. */
export type Option = Shape["OptionShape"];

/** What the form of a step is given. */
export interface StepProps {
  sheet: Sheet;
  step: Step;
  /** The reservoir the step belongs to; none for the whole bike's. */
  task: Task | undefined;
  now: () => number;
  problem: Problem | null;
  busy: boolean;
  send: Send;
}

const CLOSED: Step["status"][] = ["done", "skipped"];

export function isClosed(step: Step): boolean {
  return CLOSED.includes(step.status);
}

/** Whether an entry is no work at its step: whose it is, what the visit waits for. */
export function isAside(sheet: Sheet, kind: Kind): boolean {
  return sheet.asides.some((aside) => aside === kind);
}

/** Something a person can do now, or a wait of theirs that runs. */
export function isOpen(step: Step): boolean {
  return step.kind !== "wait" && (step.status === "ready" || step.status === "running");
}

/** Everything that runs by the clock now: what somebody started, and what settles by itself. */
export function running(sheet: Sheet): Step[] {
  return sheet.steps.filter((step) => step.status === "running" && step.ends_at);
}

/** Where a running wait leads: what settles by itself, to the level that is read after it. */
export function ledTo(sheet: Sheet, step: Step): Step {
  if (step.kind !== "wait") return step;
  const read = sheet.steps.find(
    ({ kind, reservoir, round }) =>
      kind === "level" && reservoir === step.reservoir && round === step.round,
  );
  return read ?? step;
}

export function taskOf(sheet: Sheet, step: Step): Task | undefined {
  return sheet.tasks.find((task) => task.key === step.reservoir);
}

/** The step in hand: the one looked at; else the one that was in hand, as long as somebody can go on with
 * it or has half typed something there, whatever others write down meanwhile; else the next in the
 * planned order. */
export function inHand(
  sheet: Sheet,
  looking: string | null,
  last: string | null = null,
  typedIn: (step: string) => boolean = () => false,
): Step | undefined {
  const named = (id: string | null) => sheet.steps.find((step) => step.id === id);
  const was = named(last);
  const stays = was && (isOpen(was) || typedIn(was.id)) ? was : undefined;
  return named(looking) ?? stays ?? named(sheet.focus);
}
