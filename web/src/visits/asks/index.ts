import type { Shape } from "../../api/client";
import type { StepProps } from "../sheet";
import { AmountStep } from "./amount";
import { CheckStep } from "./check";
import { ChoiceStep } from "./choice";
import { FillStep } from "./fill";
import { FilterStep } from "./filter";
import { FindingStep } from "./finding";
import { LeaksStep } from "./leaks";
import { LevelStep } from "./level";
import { LookUpStep } from "./look_up";
import { MeasureStep } from "./measure";
import { RanOutStep } from "./ran_out";
import { TimerStep } from "./timer";
import { TorqueStep } from "./torque";

/** The form of each kind of step; one without fails the type check. */
export const FORMS: Record<Shape["StepKind"], (props: StepProps) => React.ReactNode> = {
  "look up": LookUpStep,
  check: CheckStep,
  timer: TimerStep,
  drain: TimerStep,
  wait: TimerStep,
  gate: ChoiceStep,
  choice: ChoiceStep,
  amount: AmountStep,
  finding: FindingStep,
  torque: TorqueStep,
  filter: FilterStep,
  fill: FillStep,
  level: LevelStep,
  "ran out": RanOutStep,
  leaks: LeaksStep,
  measure: MeasureStep,
};
