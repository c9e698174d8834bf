import { clsx } from "clsx";
import { useRef, useState, type KeyboardEvent, type PointerEvent } from "react";
import { colour } from "../ui/theme";
import { usePhone } from "../ui/useMedia";
import { Drawing } from "./layouts";
import { APART, inside, numbered, spread, type Placed } from "./places";
import bikeMapCss from "./bike-map.module.css";
import textCss from "../ui/text.module.css";

const W = 1000;
const H = 700;
const STEP = 0.01;
/** On a phone the drawing is small and its signs are drawn larger. */
const ON_PHONE = 1.8;

/** Drains point down, fillers up, the rest are square: shape says it before colour does. */
export function Mark({ role, here, number }: { role: string; here: boolean; number?: number }) {
  const dark = here || role === "drain plug";
  const fill = here ? colour.alarm : role === "drain plug" ? colour.action : colour.enamel;
  const props = { fill, stroke: here ? colour.alarm : colour.action, strokeWidth: 4 };
  const shape: Record<string, React.ReactNode> = {
    "drain plug": <path d="M-26 -18 L26 -18 L0 28 Z" {...props} />,
    "fill plug": <path d="M-26 18 L26 18 L0 -28 Z" {...props} />,
  };
  const drop = role === "drain plug" ? 1 : role === "fill plug" ? 15 : 8;
  return (
    <>
      {shape[role] ?? <rect x={-18} y={-18} width={36} height={36} rx={6} {...props} />}
      {number !== undefined && (
        <text y={drop} className={bikeMapCss.mapNumber} fill={dark ? "#fff" : colour.ink}>
          {number}
        </text>
      )}
    </>
  );
}

const ARROWS: Record<string, [number, number]> = {
  ArrowLeft: [-STEP, 0],
  ArrowRight: [STEP, 0],
  ArrowUp: [0, -STEP],
  ArrowDown: [0, STEP],
};

interface Props {
  layout: string;
  plugs: Placed[];
  /** The plug in question: drawn large, the others faint. */
  here?: string;
  /** With this, plugs can be moved by dragging and by the arrow keys. */
  move?: (id: string, x: number, y: number) => void;
  compact?: boolean;
}

interface PlugProps {
  plug: Placed;
  /** How much larger than on a tablet it is drawn. */
  large: number;
  /** Where its symbol stands, where that is not on the plug itself. */
  at?: { x: number; y: number };
  number?: number;
  here?: string;
  nudge?: (event: KeyboardEvent) => void;
  grab?: () => void;
}

/** From a symbol that was moved aside to where its plug is. */
function Leader({ plug, at }: { plug: Placed; at: { x: number; y: number } }) {
  const [x, y] = [plug.x * W, plug.y * H];
  if (Math.hypot(at.x - x, at.y - y) < 1) return null;
  return (
    <>
      <line x1={x} y1={y} x2={at.x} y2={at.y} stroke={colour.action} strokeWidth="2" />
      <circle cx={x} cy={y} r="5" fill={colour.action} />
    </>
  );
}

function Plug({ plug, large, at, number, here, nudge, grab }: PlugProps) {
  const mine = plug.id === here;
  const { x, y } = at ?? { x: plug.x * W, y: plug.y * H };
  return (
    <g
      transform={`translate(${x} ${y}) scale(${large * (mine ? 1.5 : 1)})`}
      opacity={here && !mine ? 0.35 : 1}
      className={clsx(bikeMapCss.mapPlug, grab && bikeMapCss.mapPlugMoves)}
      role={grab ? "button" : "img"}
      tabIndex={grab ? 0 : undefined}
      aria-label={plug.label}
      onKeyDown={nudge}
      onPointerDown={(event) => {
        if (!grab) return;
        event.currentTarget.setPointerCapture(event.pointerId);
        grab();
      }}
    >
      <title>{plug.label}</title>
      <circle r={34} fill="transparent" />
      <Mark role={plug.role} here={mine} number={number} />
    </g>
  );
}

/** What is being dragged, and where it is now. */
function useDrag(move: Props["move"]) {
  const svg = useRef<SVGSVGElement>(null);
  const [held, setHeld] = useState<Placed | null>(null);
  const follow = (event: PointerEvent) => {
    const box = svg.current?.getBoundingClientRect();
    if (!held || !box) return;
    const x = inside((event.clientX - box.left) / box.width);
    const y = inside((event.clientY - box.top) / box.height);
    setHeld({ ...held, x, y });
  };
  const drop = () => {
    if (held && move) move(held.id, held.x, held.y);
    setHeld(null);
  };
  return { svg, held, setHeld, follow, drop };
}

/** A generic bike from the right and from below, its plugs where they are, numbered for the list
 * beside it: no word lies on the drawing. */
export function BikeMap({ layout, plugs, here, move, compact }: Props) {
  const { svg, held, setHeld, follow, drop } = useDrag(move);
  const nudge = (plug: Placed) => (event: KeyboardEvent) => {
    const by = ARROWS[event.key];
    if (!move || !by) return;
    event.preventDefault();
    move(plug.id, inside(plug.x + by[0]), inside(plug.y + by[1]));
  };
  const large = usePhone() ? ON_PHONE : 1;
  // while plugs are being placed they stand where they are put
  const aside = move || compact ? new Map<string, never>() : spread(plugs, APART * large);
  return (
    <svg
      ref={svg}
      viewBox={`0 0 ${W} ${H}`}
      className={clsx(bikeMapCss.bikeMap, compact && bikeMapCss.bikeMapCompact)}
      role="group"
      aria-label={`Bike map, ${layout}`}
      onPointerMove={follow}
      onPointerUp={drop}
    >
      <Drawing layout={layout} />
      {plugs.map((plug) => {
        const at = aside.get(plug.id);
        return at && <Leader key={plug.id} plug={plug} at={at} />;
      })}
      {numbered(plugs).map(({ plug, number }) => (
        <Plug
          key={plug.id}
          plug={held?.id === plug.id ? held : plug}
          large={large}
          at={aside.get(plug.id)}
          number={compact ? undefined : number}
          here={here}
          nudge={move && nudge(plug)}
          grab={move && (() => setHeld(plug))}
        />
      ))}
    </svg>
  );
}

/** The list that goes with a map: number, plug, and what there is to say of it. */
export function MapList({ plugs }: { plugs: Placed[] }) {
  return (
    <div>
      <p className={textCss.soft}>
        Above: from the right. Beneath: from below, its front to the right, its right side on top.
      </p>
      <ol className={bikeMapCss.mapList} aria-label="Plugs on the map">
        {numbered(plugs).map(({ plug, number }) => (
          <li key={plug.id}>
            <svg viewBox="-34 -34 68 68" width={40} height={40} aria-hidden>
              <Mark role={plug.role} here={false} number={number} />
            </svg>
            <span>
              {plug.label}
              {plug.more && (
                <b className={clsx(textCss.tabular, bikeMapCss.mapMore)}>{plug.more}</b>
              )}
            </span>
          </li>
        ))}
      </ol>
    </div>
  );
}
