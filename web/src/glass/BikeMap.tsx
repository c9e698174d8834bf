import "./bike-map.css";
import { useRef, useState, type KeyboardEvent, type PointerEvent } from "react";
import { colour } from "../theme";

export interface Placed {
  id: string;
  label: string;
  role: string;
  x: number;
  y: number;
}

const W = 1000;
const H = 700;
const STEP = 0.01;

/** Cylinders as seen from the right, by kind of engine. */
const CYLINDERS: Record<string, React.ReactNode> = {
  single: <path d="M500 300 L488 180 L562 176 L566 296 Z" />,
  "parallel twin": <path d="M486 300 L480 190 L576 182 L584 294 Z" />,
  "V-twin": (
    <>
      <path d="M478 300 L416 196 L474 164 L528 268 Z" />
      <path d="M540 268 L586 158 L646 184 L604 300 Z" />
    </>
  ),
  boxer: (
    <>
      <circle cx="560" cy="290" r="58" />
      <circle cx="560" cy="290" r="40" />
    </>
  ),
  "in-line four": <path d="M470 300 L470 196 L596 186 L604 294 Z" />,
};
/** The engine from below: how wide its cases are. */
const BELOW: Record<string, React.ReactNode> = {
  single: <rect x="420" y="520" width="210" height="110" rx="20" />,
  "parallel twin": <rect x="400" y="500" width="240" height="150" rx="22" />,
  "V-twin": <rect x="360" y="505" width="310" height="140" rx="24" />,
  boxer: (
    <>
      <rect x="380" y="530" width="290" height="90" rx="22" />
      <rect x="500" y="462" width="100" height="66" rx="12" />
      <rect x="500" y="622" width="100" height="66" rx="12" />
    </>
  ),
  "in-line four": <rect x="400" y="485" width="230" height="180" rx="22" />,
};
const DRIVE: Record<string, React.ReactNode> = {
  chain: (
    <g strokeDasharray="7 5">
      <path d="M190 302 L420 286 M190 366 L420 330" />
      <path d="M200 528 L400 528" />
    </g>
  ),
  belt: (
    <g strokeWidth="6">
      <path d="M190 306 L420 288 M190 360 L420 328" />
      <path d="M200 622 L380 622" />
    </g>
  ),
  shaft: (
    <>
      <path d="M210 320 L400 296 L400 318 L210 346 Z" />
      <circle cx="190" cy="332" r="34" />
      <path d="M220 540 L380 556 M220 556 L380 572" />
      <circle cx="196" cy="548" r="26" />
    </>
  ),
};

function Drawing({ layout, words }: { layout: string; words: boolean }) {
  const [engine = "", drive = ""] = layout.split(", ");
  return (
    <g fill="none" stroke={colour.metal} strokeWidth="4" strokeLinejoin="round">
      <circle cx="190" cy="332" r="108" />
      <circle cx="812" cy="332" r="108" />
      <path d="M812 332 L716 96 M786 342 L694 104" />
      <path d="M640 92 Q700 70 742 96" />
      <path d="M690 130 L440 150 L300 176 L250 150 M440 150 L392 330 L190 332" />
      <path d="M690 130 L640 300 L610 372 L420 376" />
      <path d="M450 146 Q560 84 680 132" fill={colour.paper} />
      <path d="M250 148 Q330 120 448 148" strokeWidth="9" />
      <path d="M330 186 L300 296" strokeWidth="7" strokeDasharray="5 4" />
      <g fill={colour.enamel}>
        {DRIVE[drive]}
        {CYLINDERS[engine]}
        <path d="M396 300 Q396 268 440 268 L600 276 Q630 300 610 360 L420 366 Q396 350 396 300 Z" />
        <circle cx="440" cy="318" r="34" />
      </g>
      <path d="M40 450 L960 450" strokeWidth="2" strokeDasharray="2 8" />
      <g fill={colour.enamel}>
        <rect x="110" y="548" width="170" height="54" rx="24" />
        <rect x="730" y="552" width="170" height="46" rx="22" />
        {BELOW[engine]}
      </g>
      <path d="M280 575 L360 575 M670 575 L730 575" />
      <g fill={colour.soft} stroke="none" fontSize={words ? 20 : 34}>
        <text x="20" y="38">
          from the right
        </text>
        <text x="20" y="492">
          from below
        </text>
        {words && (
          <>
            <text x="20" y="520">
              right side
            </text>
            <text x="20" y="684">
              left side
            </text>
            <text x="980" y="690" textAnchor="end">
              front →
            </text>
          </>
        )}
      </g>
    </g>
  );
}

/** Drains point down, fillers up, the rest are square: shape says it before colour does. */
function Mark({ role, here }: { role: string; here: boolean }) {
  const fill = here ? colour.alarm : role === "drain plug" ? colour.action : colour.enamel;
  const props = { fill, stroke: here ? colour.alarm : colour.action, strokeWidth: 4 };
  if (role === "drain plug") return <path d="M-16 -12 L16 -12 L0 18 Z" {...props} />;
  if (role === "fill plug") return <path d="M-16 12 L16 12 L0 -18 Z" {...props} />;
  return <rect x={-13} y={-13} width={26} height={26} rx={5} {...props} />;
}

const ARROWS: Record<string, [number, number]> = {
  ArrowLeft: [-STEP, 0],
  ArrowRight: [STEP, 0],
  ArrowUp: [0, -STEP],
  ArrowDown: [0, STEP],
};
const inside = (share: number) => Math.min(1, Math.max(0, Math.round(share * 100) / 100));

const ROW = 24;
const LETTER = 9.6;

/** Where each label stands: beside its plug, moved down where another one is already. */
function labelled(plugs: Placed[]) {
  const taken: { x: number; y: number; w: number }[] = [];
  return [...plugs]
    .sort((a, b) => a.y - b.y || a.x - b.x)
    .map((plug) => {
      const w = plug.label.length * LETTER;
      const end = plug.x * W + 24 + w > W;
      const x = plug.x * W + (end ? -24 : 24);
      const left = end ? x - w : x;
      let y = plug.y * H;
      const hits = () =>
        taken.find((t) => Math.abs(t.y - y) < ROW && left < t.x + t.w && t.x < left + w);
      for (let hit = hits(); hit; hit = hits()) y = hit.y + ROW;
      taken.push({ x: left, y, w });
      return { plug, x, y, end };
    });
}

interface Props {
  layout: string;
  plugs: Placed[];
  /** The plug in question: drawn large, the others faint. */
  here?: string;
  /** With this, plugs can be moved by dragging and by the arrow keys. */
  move?: (id: string, x: number, y: number) => void;
  compact?: boolean;
}

/** A generic bike from the right and from below, with its plugs where they are. */
export function BikeMap({ layout, plugs, here, move, compact }: Props) {
  const svg = useRef<SVGSVGElement>(null);
  const [held, setHeld] = useState<Placed | null>(null);

  function at(event: PointerEvent): [number, number] {
    const box = svg.current?.getBoundingClientRect();
    if (!box) return [0, 0];
    return [
      inside((event.clientX - box.left) / box.width),
      inside((event.clientY - box.top) / box.height),
    ];
  }

  function nudge(event: KeyboardEvent, plug: Placed) {
    const by = ARROWS[event.key];
    if (!move || !by) return;
    event.preventDefault();
    move(plug.id, inside(plug.x + by[0]), inside(plug.y + by[1]));
  }

  const shown = plugs.map((plug) => (held?.id === plug.id ? held : plug));
  const named = here ? shown.filter((plug) => plug.id === here) : shown;
  return (
    <svg
      ref={svg}
      viewBox={`0 0 ${W} ${H}`}
      className={compact ? "bike-map bike-map-compact" : "bike-map"}
      role="group"
      aria-label={`Bike map, ${layout}`}
      onPointerMove={(event) => {
        if (!held) return;
        const [x, y] = at(event);
        setHeld({ ...held, x, y });
      }}
      onPointerUp={() => {
        if (held && move) move(held.id, held.x, held.y);
        setHeld(null);
      }}
    >
      <Drawing layout={layout} words={!compact} />
      {shown.map((plug) => (
        <g
          key={plug.id}
          transform={`translate(${plug.x * W} ${plug.y * H}) scale(${plug.id === here ? 1.7 : 1})`}
          opacity={here && plug.id !== here ? 0.35 : 1}
          className={move ? "map-plug map-plug-moves" : "map-plug"}
          role={move ? "button" : "img"}
          tabIndex={move ? 0 : undefined}
          aria-label={plug.label}
          onKeyDown={(event) => nudge(event, plug)}
          onPointerDown={(event) => {
            if (!move) return;
            event.currentTarget.setPointerCapture(event.pointerId);
            setHeld(plug);
          }}
        >
          <title>{plug.label}</title>
          <circle r={30} fill="transparent" />
          <Mark role={plug.role} here={plug.id === here} />
        </g>
      ))}
      {!compact &&
        labelled(named).map(({ plug, x, y, end }) => (
          <g key={plug.id} pointerEvents="none">
            {Math.abs(y - plug.y * H) > ROW / 2 && (
              <path
                d={`M${plug.x * W} ${plug.y * H} L${x} ${y}`}
                stroke={colour.metal}
                strokeWidth="1.5"
              />
            )}
            <text x={x} y={y + 7} className="map-label" textAnchor={end ? "end" : "start"}>
              {plug.label}
            </text>
          </g>
        ))}
    </svg>
  );
}
