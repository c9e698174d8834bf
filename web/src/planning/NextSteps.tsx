import { Link } from "react-router";
import type { Shape } from "../api/client";

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
      className={planned.late ? "link-button late" : "link-button"}
    >
      Planned {planned.day}
      {planned.late && ", late"}
    </Link>
  );
}

export function PlanLink({ bike }: { bike: string }) {
  return (
    <Link to={`/bikes/${bike}/plan`} className="link-button">
      Plan a visit
    </Link>
  );
}
