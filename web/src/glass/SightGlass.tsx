import { useId } from "react";
import { colour } from "../ui/theme";
import type { Shape } from "../api/client";
import { oilTint } from "./oil";

type State = Shape["DueState"];

interface Props {
  /** Share of life left, 0–1. */
  level: number;
  /** 0 fresh, 1 spent. */
  age: number;
  state: State;
  size?: number;
  label?: string;
  /** Where the level will stand in a month, 0–1. */
  notch?: number | null;
}

const R = 40;

/** What stands over the glass when it needs somebody: a flag for due, a query for no record. */
function Flag({ state }: { state: State }) {
  if (state === "due") {
    return (
      <g>
        <path d="M50 0 L84 0 L74 11 L84 22 L50 22 Z" fill={colour.alarm} />
        <line x1="50" y1="0" x2="50" y2="34" stroke={colour.alarm} strokeWidth="5" />
      </g>
    );
  }
  if (state === "baseline") {
    return (
      <text x="50" y="65" textAnchor="middle" fontSize="36" fontWeight="700" fill={colour.alarm}>
        ?
      </text>
    );
  }
  return null;
}

function ring(state: State): { stroke: string; dash?: string; width: number } {
  if (state === "due") return { stroke: colour.alarm, width: 8 };
  if (state === "baseline") return { stroke: colour.alarm, dash: "9 7", width: 7 };
  if (state === "soon") return { stroke: colour.warn, dash: "26 5", width: 6 };
  return { stroke: colour.metal, width: 5 };
}

/** A reservoir as a round glass: liquid height is life left, tint is the oil's age. */
export function SightGlass({ level, age, state, size = 64, label, notch }: Props) {
  const clip = useId();
  const top = 52 + R - 2 * R * Math.min(Math.max(level, 0), 1);
  const { stroke, dash, width } = ring(state);
  return (
    <svg
      viewBox="0 0 100 100"
      width={size}
      height={size}
      role={label ? "img" : undefined}
      aria-label={label}
      aria-hidden={label ? undefined : true}
    >
      <clipPath id={clip}>
        <circle cx="50" cy="52" r={R - 3} />
      </clipPath>
      <circle cx="50" cy="52" r={R} fill="#fffdf6" />
      <g clipPath={`url(#${clip})`}>
        <rect x="5" y={top} width="90" height="100" fill={oilTint(age)} />
        <rect x="5" y={top} width="90" height="3" fill="#fff" opacity="0.35" />
        <ellipse
          cx="34"
          cy="34"
          rx="10"
          ry="17"
          fill="#fff"
          opacity="0.28"
          transform="rotate(28 34 34)"
        />
      </g>
      <circle
        cx="50"
        cy="52"
        r={R}
        fill="none"
        stroke={stroke}
        strokeWidth={width}
        strokeDasharray={dash}
      />
      {notch != null && level > 0 && (
        <path
          d={`M8 ${52 + R - 2 * R * notch} l-8 -6 v12 Z M92 ${52 + R - 2 * R * notch} l8 -6 v12 Z`}
          fill={colour.ink}
        />
      )}
      <Flag state={state} />
    </svg>
  );
}
