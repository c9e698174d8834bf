import { useRef, type KeyboardEvent, type PointerEvent } from "react";
import { colour } from "../theme";
import { oilTint } from "./oil";

interface Props {
  /** Where the oil stands: 0 low mark, 1 high mark. */
  position: number;
  target: number;
  disabled?: boolean;
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

/** The drawn gauge. The level is dragged to where the oil stands, or moved with the arrow keys. */
export function LevelGlass({ position, target, disabled, onChange }: Props) {
  const drawing = useRef<SVGSVGElement>(null);
  const y = LOW - position * (LOW - HIGH);

  function drag(event: PointerEvent) {
    const box = drawing.current?.getBoundingClientRect();
    if (!box || disabled || event.buttons === 0) return;
    const at = ((event.clientY - box.top) / box.height) * 380;
    onChange(clamp((LOW - at) / (LOW - HIGH)));
  }

  function press(event: KeyboardEvent) {
    const moves: Record<string, number> = {
      ArrowUp: STEP,
      ArrowRight: STEP,
      ArrowDown: -STEP,
      ArrowLeft: -STEP,
      PageUp: 0.25,
      PageDown: -0.25,
    };
    const move = moves[event.key];
    if (move === undefined || disabled) return;
    event.preventDefault();
    onChange(clamp(position + move));
  }

  return (
    <svg
      ref={drawing}
      viewBox="0 0 380 380"
      className="level-glass"
      role="slider"
      tabIndex={disabled ? -1 : 0}
      aria-label="Oil level"
      aria-orientation="vertical"
      aria-valuemin={LOWEST * 100}
      aria-valuemax={HIGHEST * 100}
      aria-valuenow={Math.round(position * 100)}
      aria-valuetext={`${Math.round(position * 100)} % of the way from low to high mark`}
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        drag(event);
      }}
      onPointerMove={drag}
      onKeyDown={press}
    >
      <clipPath id="level-clip">
        <circle cx="190" cy="190" r="162" />
      </clipPath>
      <circle cx="190" cy="190" r="182" fill="#c9cfcd" stroke={colour.metal} strokeWidth="4" />
      {[45, 135, 225, 315].map((turn) => (
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
        <ellipse
          cx="110"
          cy="120"
          rx="26"
          ry="62"
          fill="#fff"
          opacity="0.3"
          transform="rotate(28 110 120)"
        />
      </g>
      {(
        [
          [HIGH, "high"],
          [LOW, "low"],
        ] as const
      ).map(([at, word]) => (
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
      <g transform={`translate(190 ${Math.min(Math.max(y, TOP), BOTTOM)})`} className="level-grip">
        <rect x="-62" y="-24" width="124" height="48" rx="24" fill={colour.bar} />
        <text x="0" y="8" textAnchor="middle" fontSize="24" fontWeight="700" fill="#fff">
          {Math.round(position * 100)} %
        </text>
        <path d="M-46 -4 l8 -9 l8 9 Z M-46 4 l8 9 l8 -9 Z" fill="#fff" />
      </g>
    </svg>
  );
}
