import { useId, useRef, type PointerEvent } from "react";
import { MATTER } from "../glass/matter";
import { CELLS, stroke, touched, wipe, type Cell, type Form, type Painted } from "./paint";
import painterCss from "./painter.module.css";

const BRUSH = 4.2;
const [EDGE, WIDE] = [10, 80];

/** How a form lies on its cells: drawn on every so many of them. */
const LIES: Record<Form, { every: number; draw: string; line: boolean }> = {
  paste: {
    every: 1,
    draw: "M-2.4 0 Q-2.2 -2.6 0.4 -2.2 Q2.8 -1.6 2.3 0.6 Q1.6 2.6 -0.6 2.2 Q-2.6 1.8 -2.4 0",
    line: false,
  },
  fuzz: { every: 1, draw: "M-1.6 1 Q0 -2.4 1.6 0.8", line: true },
  specks: { every: 2, draw: "M-0.9 0 L0 -0.9 L0.9 0 L0 0.9 Z", line: false },
  slivers: { every: 3, draw: "M-4 0 L4 0.7 L-4 1.2 Z", line: false },
  flakes: { every: 4, draw: "M-2.8 -1.8 L1.2 -2.4 L2.8 1.2 L-1.8 2.4 Z", line: false },
  chips: { every: 7, draw: "M-3.6 -2.4 L1.8 -3.6 L4.2 0.6 L0.6 3.6 L-3 1.8 Z", line: false },
  fragments: { every: 12, draw: "M-6 -4 L2.4 -6 L7 0 L1.8 5.4 L-5.4 3.6 Z", line: false },
};

/** Nothing lies in rows: how far off its cell a piece is drawn, the same each time. */
const off = (cell: number, by: number) => ((cell * by) % 17) / 17 - 0.5;

function Matter({ part }: { part: Painted }) {
  const { every, draw, line } = LIES[part.form];
  const tint = MATTER[part.matter];
  return (
    <g>
      {part.cells.map((cell) => {
        const { x, y } = CELLS[cell] as Cell;
        return (
          <rect
            key={cell}
            x={x - 1.6}
            y={y - 1.6}
            width="3.2"
            height="3.2"
            fill={tint}
            opacity="0.2"
          />
        );
      })}
      {part.cells
        .filter((_, n) => n % every === 0)
        .map((cell) => {
          const { x, y } = CELLS[cell] as Cell;
          return (
            <path
              key={cell}
              d={draw}
              fill={line ? "none" : tint}
              stroke={line ? tint : part.form === "paste" ? "none" : "#fff"}
              strokeWidth={line ? 0.9 : 0.25}
              transform={`translate(${x + off(cell, 31)} ${y + off(cell, 57)}) rotate(${(cell * 67) % 360})`}
            />
          );
        })}
    </g>
  );
}

interface Props {
  parts: Painted[];
  /** What is painted with; none: what is there is wiped off. */
  brush: Painted | null;
  change: (parts: Painted[]) => void;
}

/** The plug's magnet face, painted with a finger or the mouse as it looks. */
export function PaintedPlug({ parts, brush, change }: Props) {
  const clip = useId();
  const last = useRef<Cell | null>(null);
  const at = (event: PointerEvent<SVGSVGElement>): Cell => {
    const box = event.currentTarget.getBoundingClientRect();
    return {
      x: EDGE + ((event.clientX - box.left) / box.width) * WIDE,
      y: EDGE + ((event.clientY - box.top) / box.height) * WIDE,
    };
  };
  const paint = (event: PointerEvent<SVGSVGElement>) => {
    const now = at(event);
    const cells = touched(last.current ?? now, now, BRUSH);
    last.current = now;
    if (cells.length) change(brush ? stroke(parts, brush, cells) : wipe(parts, cells));
  };
  const covered = parts.reduce((sum, part) => sum + part.cells.length, 0);
  return (
    <svg
      className={painterCss.paintedPlug}
      viewBox={`${EDGE} ${EDGE} ${WIDE} ${WIDE}`}
      role="img"
      aria-label={`The magnet, ${Math.round((covered / CELLS.length) * 100)} % covered`}
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        paint(event);
      }}
      onPointerMove={(event) => last.current && paint(event)}
      onPointerUp={() => (last.current = null)}
      onPointerCancel={() => (last.current = null)}
    >
      <clipPath id={clip}>
        <circle cx="50" cy="50" r="36" />
      </clipPath>
      <circle cx="50" cy="50" r="39" fill="#c3c8c6" stroke="#8f9a99" strokeWidth="0.8" />
      <circle cx="50" cy="50" r="37" fill="#e6e8e4" stroke="#9aa2a0" strokeWidth="1.4" />
      <g clipPath={`url(#${clip})`}>
        {parts.map((part) => (
          <Matter key={`${part.form} ${part.matter}`} part={part} />
        ))}
      </g>
    </svg>
  );
}

/** A form as the brush shows it. */
export function FormMark({ form, tint }: { form: Form; tint: string }) {
  const { draw, line } = LIES[form];
  const spots = form === "paste" ? [0] : [-7, 0, 7];
  return (
    <svg viewBox="-12 -7 24 14" width="44" height="24" aria-hidden>
      {spots.map((x, n) => (
        <path
          key={x}
          d={draw}
          fill={line ? "none" : tint}
          stroke={line ? tint : "none"}
          strokeWidth="1.2"
          transform={`translate(${form === "fragments" ? (n - 1) * 9 : x} 0) scale(${form === "paste" ? 2.6 : form === "fragments" ? 0.7 : 1}) rotate(${n * 50})`}
        />
      ))}
    </svg>
  );
}
