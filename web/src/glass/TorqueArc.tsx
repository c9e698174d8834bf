import { colour } from "../theme";

interface Props {
  unit: string;
  scaleLow: number;
  scaleHigh: number;
  bandLow: number;
  bandHigh: number;
  mark: number | null;
  reading: number | null;
}

const START = -210;
const SWEEP = 240;

function polar(angle: number, r: number): [number, number] {
  const a = (angle * Math.PI) / 180;
  return [200 + r * Math.cos(a), 190 + r * Math.sin(a)];
}

function arc(from: number, to: number, r: number): string {
  const [x1, y1] = polar(from, r);
  const [x2, y2] = polar(to, r);
  return `M${x1} ${y1} A${r} ${r} 0 ${to - from > 180 ? 1 : 0} 1 ${x2} ${y2}`;
}

/** The next round number a scale would be marked in: 1, 2, 5, 10 … */
function niceStep(rough: number): number {
  const power = 10 ** Math.floor(Math.log10(rough));
  return ([1, 2, 5].find((factor) => factor * power >= rough) ?? 10) * power;
}

/** The wrench's scale as an arc: the allowed band, the mark to set, and the needle of a reading. */
export function TorqueArc(props: Props) {
  const { unit, scaleLow, scaleHigh, mark, reading } = props;
  const angle = (value: number) => {
    const share = (value - scaleLow) / (scaleHigh - scaleLow || 1);
    return START + Math.min(Math.max(share, 0), 1) * SWEEP;
  };
  const bandTo = Math.max(angle(props.bandHigh), angle(props.bandLow) + 3);
  const step = niceStep((scaleHigh - scaleLow) / 6);
  const first = Math.ceil(scaleLow / step) * step;
  const ticks = Array.from(
    { length: Math.floor((scaleHigh - first) / step) + 1 },
    (_, i) => first + step * i,
  );
  const [mx, my] = polar(angle(mark ?? scaleLow), 178);
  const [nx, ny] = polar(angle(reading ?? scaleLow), 128);
  return (
    <svg
      viewBox="0 0 400 300"
      className="torque-arc"
      role="img"
      aria-label={`Torque scale in ${unit}`}
    >
      <path d={arc(START, START + SWEEP, 150)} fill="none" stroke="#d9d2c0" strokeWidth="26" />
      <path
        d={arc(angle(props.bandLow), bandTo, 150)}
        fill="none"
        stroke={colour.action}
        strokeWidth="26"
      />
      {ticks.map((value) => {
        const [x, y] = polar(angle(value), 112);
        return (
          <text key={value} x={x} y={y + 6} textAnchor="middle" fontSize="17" fill={colour.soft}>
            {Number(value.toFixed(1))}
          </text>
        );
      })}
      {mark !== null && (
        <g>
          <line
            x1={polar(angle(mark), 132)[0]}
            y1={polar(angle(mark), 132)[1]}
            x2={mx}
            y2={my}
            stroke={colour.ink}
            strokeWidth="5"
          />
        </g>
      )}
      {reading !== null && (
        <g>
          <line
            x1="200"
            y1="190"
            x2={nx}
            y2={ny}
            stroke={colour.alarm}
            strokeWidth="6"
            strokeLinecap="round"
          />
          <circle cx="200" cy="190" r="11" fill={colour.alarm} />
        </g>
      )}
      <text x="200" y="258" textAnchor="middle" fontSize="22" fontWeight="600" fill={colour.soft}>
        {unit}
      </text>
    </svg>
  );
}
