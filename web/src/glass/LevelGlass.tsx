import { useRef, type KeyboardEvent, type PointerEvent } from "react";
import { colour } from "../ui/theme";
import { oilTint } from "./oil";
import drawingsCss from "./drawings.module.css";

interface Props {
  /** Where the oil stands: 0 low mark, 1 high mark. */
  position: number;
  target: number;
  /** How the gauge looks: a round glass, or a dipstick. */
  stick?: boolean;
  onChange: (position: number) => void;
}

const HIGH = 90;
const LOW = 290;
const TOP = 40;
const BOTTOM = 340;
const STEP = 0.05;
const LOWEST = -0.2;
const HIGHEST = 1.2;

function clamp(position: number): number {
  return Math.round(Math.min(Math.max(position, LOWEST), HIGHEST) * 100) / 100;
}

const SCREWS = [45, 135, 225, 315];

function Glass({ y }: { y: number }) {
  return (
    <>
      <clipPath id="level-clip">
        <circle cx="190" cy="190" r="162" />
      </clipPath>
      <circle cx="190" cy="190" r="182" fill="#c9cfcd" stroke={colour.metal} strokeWidth="4" />
      {SCREWS.map((turn) => (
        <circle
          key={turn}
          cx="190"
          cy="18"
          r="7"
          fill={colour.metal}
          transform={`rotate(${turn} 190 190)`}
        />
      ))}
      <circle cx="190" cy="190" r="164" fill="#fffdf6" />
      <g clipPath="url(#level-clip)">
        <rect x="0" y={y} width="380" height="380" fill={oilTint(0.05)} />
        <rect x="0" y={y} width="380" height="6" fill="#fff" opacity="0.45" />
      </g>
    </>
  );
}

/** A dipstick with its cross-hatch between the marks, wet up to the level. */
function Stick({ y }: { y: number }) {
  const hatch = Array.from({ length: 12 }, (_, i) => HIGH + ((LOW - HIGH) * i) / 12);
  return (
    <>
      <clipPath id="level-clip">
        <path d="M130 -10 h120 v350 q0 30 -60 36 q-60 -6 -60 -36 z" />
      </clipPath>
      <g clipPath="url(#level-clip)">
        <rect x="130" y="-10" width="120" height="400" fill="#dfe3e1" />
        {hatch.map((at) => (
          <path
            key={at}
            d={`M130 ${at} l120 ${(LOW - HIGH) / 12} M250 ${at} l-120 ${(LOW - HIGH) / 12}`}
            stroke={colour.metal}
            strokeWidth="2"
          />
        ))}
        <rect x="130" y={y} width="120" height="400" fill={oilTint(0.05)} opacity="0.82" />
        <rect x="130" y={y} width="120" height="5" fill="#fff" opacity="0.5" />
      </g>
      <path
        d="M130 -10 v350 q0 30 60 36 q60 -6 60 -36 v-350"
        fill="none"
        stroke={colour.metal}
        strokeWidth="4"
      />
    </>
  );
}

/** The two marks, and the arrow where the level should be. */
function Marks({ target }: { target: number }) {
  const marks = [
    [HIGH, "high"],
    [LOW, "low"],
  ] as const;
  return (
    <>
      {marks.map(([at, word]) => (
        <g key={word}>
          <line
            x1="52"
            y1={at}
            x2="328"
            y2={at}
            stroke={colour.ink}
            strokeWidth="3"
            strokeDasharray="2 7"
          />
          <text
            x="190"
            y={at - 8}
            textAnchor="middle"
            fontSize="19"
            fontWeight="600"
            fill={colour.ink}
          >
            {word}
          </text>
        </g>
      ))}
      <path
        d={`M352 ${LOW - target * (LOW - HIGH)} l22 -11 v22 Z`}
        fill={colour.action}
        aria-hidden
      />
    </>
  );
}

function Grip({ position, y }: { position: number; y: number }) {
  return (
    <g transform={`translate(190 ${Math.min(Math.max(y, TOP), BOTTOM)})`}>
      <rect x="-62" y="-24" width="124" height="48" rx="24" fill={colour.bar} />
      <text x="0" y="8" textAnchor="middle" fontSize="24" fontWeight="700" fill="#fff">
        {Math.round(position * 100)} %
      </text>
    </g>
  );
}

const MOVES: Record<string, number> = {
  ArrowUp: STEP,
  ArrowRight: STEP,
  ArrowDown: -STEP,
  ArrowLeft: -STEP,
  PageUp: 0.25,
  PageDown: -0.25,
};

/** The drawn gauge. The level is dragged to where the oil stands, or moved with the arrow keys. */
export function LevelGlass({ position, target, stick = false, onChange }: Props) {
  const drawing = useRef<SVGSVGElement>(null);
  const y = LOW - position * (LOW - HIGH);
  const percent = Math.round(position * 100);

  function drag(event: PointerEvent) {
    const box = drawing.current?.getBoundingClientRect();
    if (!box || event.buttons === 0) return;
    const at = ((event.clientY - box.top) / box.height) * 380;
    onChange(clamp((LOW - at) / (LOW - HIGH)));
  }

  function press(event: KeyboardEvent) {
    const move = MOVES[event.key];
    if (move === undefined) return;
    event.preventDefault();
    onChange(clamp(position + move));
  }

  return (
    <svg
      ref={drawing}
      viewBox="0 0 380 380"
      className={drawingsCss.levelGlass}
      role="slider"
      tabIndex={0}
      aria-label="Oil level"
      aria-orientation="vertical"
      aria-valuemin={LOWEST * 100}
      aria-valuemax={HIGHEST * 100}
      aria-valuenow={percent}
      aria-valuetext={`${percent} % of the way from low to high mark`}
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        drag(event);
      }}
      onPointerMove={drag}
      onKeyDown={press}
    >
      {stick ? <Stick y={y} /> : <Glass y={y} />}
      <Marks target={target} />
      <Grip position={position} y={y} />
    </svg>
  );
}
