import { clsx } from "clsx";
import { Link } from "react-router";
import type { Shape } from "../api/client";
import textCss from "../ui/text.module.css";
import wardCss from "./ward.module.css";

/** The colour of what a finding asks for. */
export const ASKS: Partial<Record<Shape["LevelWord"], string>> = {
  watch: "warning",
  investigate: "error",
  hold: "error",
};

/** To the visit that is planned next, and whether its day is over. */
export function PlannedLink({ planned }: { planned: Shape["NextPlanned"] }) {
  return (
    <Link
      to={`/planned/${planned.id}`}
      className={clsx(textCss.linkButton, planned.late && wardCss.late)}
    >
      Planned {planned.day}
      {planned.late && ", late"}
    </Link>
  );
}

export function PlanLink({ bike }: { bike: string }) {
  return (
    <Link to={`/bikes/${bike}/plan`} className={textCss.linkButton}>
      Plan a visit
    </Link>
  );
}
