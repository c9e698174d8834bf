import { useId } from "react";
import type { Shape } from "../api/client";
import { colour } from "../ui/theme";
import { MATTER } from "./matter";

type Form = Shape["DebrisForm"];
type Level = Shape["LevelWord"];

export interface PlugPart {
  form: Form;
  matter: Shape["Matter"];
  share: number;
}

/** Deterministic scatter, so that the same finding always looks the same. */
function scatter(count: number, seed: number): { x: number; y: number; turn: number }[] {
  let state = seed * 7919 + 17;
  const next = () => {
    state = (state * 16807) % 2147483647;
    return state / 2147483647;
  };
  return Array.from({ length: count }, () => {
    const r = Math.sqrt(next()) * 30;
    const a = next() * 2 * Math.PI;
    return { x: 50 + r * Math.cos(a), y: 50 + r * Math.sin(a), turn: next() * 180 };
  });
}

interface Piece {
  per: number;
  draw: string;
  stroke: boolean;
  size: number;
}

/** How each form lies on the magnet; paste is spread, not scattered. */
const PIECES: Record<Exclude<Form, "paste">, Piece> = {
  fuzz: { per: 60, draw: "M-2 1 Q0 -3 2 1", stroke: true, size: 1.4 },
  specks: { per: 40, draw: "M-1.4 0 L0 -1.4 L1.4 0 L0 1.4 Z", stroke: false, size: 1 },
  slivers: { per: 26, draw: "M-6 0 L6 1 L-6 1.6 Z", stroke: false, size: 1 },
  flakes: { per: 18, draw: "M-5 -3 L2 -4 L5 2 L-3 4 Z", stroke: false, size: 1 },
  chips: { per: 9, draw: "M-6 -4 L3 -6 L7 1 L1 6 L-5 3 Z", stroke: false, size: 1.1 },
  fragments: { per: 4, draw: "M-10 -6 L4 -10 L11 0 L3 9 L-9 6 Z", stroke: false, size: 1.1 },
};

function Debris({ part, seed }: { part: PlugPart; seed: number }) {
  const fill = MATTER[part.matter];
  const share = Math.min(Math.max(part.share, 0), 1);
  if (part.form === "paste") {
    return <circle cx="50" cy="50" r={34 * Math.sqrt(share)} fill={fill} opacity="0.82" />;
  }
  const piece = PIECES[part.form];
  const count = Math.max(1, Math.round(piece.per * Math.sqrt(share)));
  return (
    <g
      fill={piece.stroke ? "none" : fill}
      stroke={piece.stroke ? fill : "#fff"}
      strokeWidth={piece.stroke ? 1.4 : 0.5}
    >
      {scatter(count, seed + part.form.length).map(({ x, y, turn }, index) => (
        <path
          key={index}
          d={piece.draw}
          transform={`translate(${x} ${y}) rotate(${turn}) scale(${piece.size})`}
        />
      ))}
    </g>
  );
}

const RIM: Partial<Record<Level, string>> = {
  watch: colour.warn,
  investigate: colour.alarm,
  hold: colour.alarm,
};

/** A drain plug's magnet face with the finding on it: texture by form, tint by matter. */
export function PlugTip({
  parts,
  level = "routine",
  size = 40,
  label,
  x,
  y,
}: {
  parts: readonly PlugPart[];
  level?: Level;
  size?: number;
  label?: string;
  /** Where it is drawn, inside another drawing. */
  x?: number;
  y?: number;
}) {
  const clip = useId();
  return (
    <svg
      viewBox="0 0 100 100"
      width={size}
      height={size}
      x={x}
      y={y}
      role={label ? "img" : undefined}
      aria-label={label}
      aria-hidden={label ? undefined : true}
    >
      <clipPath id={clip}>
        <circle cx="50" cy="50" r="35" />
      </clipPath>
      <path
        d="M50 3 L90 26 L90 74 L50 97 L10 74 L10 26 Z"
        fill="#c3c8c6"
        stroke={RIM[level] ?? colour.metal}
        strokeWidth={RIM[level] ? 7 : 3}
      />
      <circle cx="50" cy="50" r="36" fill="#e6e8e4" stroke="#9aa2a0" strokeWidth="2" />
      <g clipPath={`url(#${clip})`}>
        {parts.map((part, index) => (
          <Debris key={index} part={part} seed={index + 1} />
        ))}
      </g>
    </svg>
  );
}
