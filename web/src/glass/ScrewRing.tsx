import { colour } from "../ui/theme";
import drawingsCss from "./drawings.module.css";

const MIDDLE = 170;
const RADIUS = 104;
const OUTSIDE = 150;

function at(screw: number, count: number, radius = RADIUS): [number, number] {
  const turn = ((screw - 1) / count) * 2 * Math.PI - Math.PI / 2;
  return [MIDDLE + radius * Math.cos(turn), MIDDLE + radius * Math.sin(turn)];
}

interface ScrewProps {
  screw: number;
  turn: number;
  count: number;
  on: boolean;
  choose: () => void;
}

/** One of them: its number, and outside it when its turn comes. */
function Screw({ screw, turn, count, on, choose }: ScrewProps) {
  const [x, y] = at(screw, count);
  const [outX, outY] = at(screw, count, OUTSIDE);
  return (
    <>
      <g
        role="button"
        tabIndex={0}
        aria-pressed={on}
        aria-label={`Screw ${screw} alone`}
        onClick={choose}
        onKeyDown={(event) => {
          if (event.key !== "Enter" && event.key !== " ") return;
          event.preventDefault();
          choose();
        }}
      >
        <circle
          cx={x}
          cy={y}
          r="27"
          fill={on ? colour.action : colour.enamel}
          stroke={colour.ink}
          strokeWidth="3"
        />
        <text
          x={x}
          y={y + 9}
          textAnchor="middle"
          fontSize="26"
          fontWeight="700"
          fill={on ? colour.enamel : colour.ink}
        >
          {screw}
        </text>
      </g>
      <text x={outX} y={outY + 6} textAnchor="middle" fontSize="16" fill={colour.soft}>
        {turn}.
      </text>
    </>
  );
}

/** The screws of a round cover as they are numbered, joined in the order they are pulled; one that is
 * tapped is pulled by itself. */
export function ScrewRing({
  order,
  chosen,
  choose,
}: {
  order: number[];
  chosen: number | null;
  choose: (screw: number) => void;
}) {
  const places = order.map((screw) => at(screw, order.length).join(","));
  return (
    <svg
      viewBox="0 0 340 340"
      className={drawingsCss.screwRing}
      role="group"
      aria-label={`Screws in the order ${order.join(" ")}`}
    >
      <circle
        cx={MIDDLE}
        cy={MIDDLE}
        r={RADIUS}
        fill="none"
        stroke={colour.line}
        strokeWidth="14"
      />
      <polyline
        points={places.join(" ")}
        fill="none"
        stroke={colour.action}
        strokeWidth="2"
        strokeDasharray="7 6"
      />
      {order.map((screw, turn) => (
        <Screw
          key={screw}
          screw={screw}
          turn={turn + 1}
          count={order.length}
          on={screw === chosen}
          choose={() => choose(screw)}
        />
      ))}
    </svg>
  );
}
