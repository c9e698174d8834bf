import { colour } from "../ui/theme";
import { ENDS, scaleAngle, scaleMarks } from "./scale";
import drawingsCss from "./drawings.module.css";

interface Props {
  unit: string;
  scaleLow: number;
  scaleHigh: number;
  bandLow: number;
  bandHigh: number;
  mark: number | null;
  reading: number | null;
}

function polar(angle: number, r: number): [number, number] {
  const a = (angle * Math.PI) / 180;
  return [200 + r * Math.cos(a), 190 + r * Math.sin(a)];
}

function arc(from: number, to: number, r: number): string {
  const [x1, y1] = polar(from, r);
  const [x2, y2] = polar(to, r);
  return `M${x1} ${y1} A${r} ${r} 0 ${to - from > 180 ? 1 : 0} 1 ${x2} ${y2}`;
}

function Needle({ angle }: { angle: number }) {
  const [x, y] = polar(angle, 128);
  return (
    <g>
      <line
        x1="200"
        y1="190"
        x2={x}
        y2={y}
        stroke={colour.alarm}
        strokeWidth="6"
        strokeLinecap="round"
      />
      <circle cx="200" cy="190" r="11" fill={colour.alarm} />
    </g>
  );
}

/** The mark to set the wrench to. */
function SetMark({ angle }: { angle: number }) {
  const [x1, y1] = polar(angle, 132);
  const [x2, y2] = polar(angle, 178);
  return <line x1={x1} y1={y1} x2={x2} y2={y2} stroke={colour.ink} strokeWidth="5" />;
}

function Numbers({ low, high }: { low: number; high: number }) {
  return scaleMarks(low, high).map((value) => {
    const [x, y] = polar(scaleAngle(value, low, high), 112);
    return (
      <text key={value} x={x} y={y + 6} textAnchor="middle" fontSize="17" fill={colour.soft}>
        {Number(value.toFixed(1))}
      </text>
    );
  });
}

/** The wrench's scale as an arc: the allowed band, the mark to set, and the needle of a reading. */
export function TorqueArc({ unit, scaleLow, scaleHigh, bandLow, bandHigh, ...at }: Props) {
  const angle = (value: number) => scaleAngle(value, scaleLow, scaleHigh);
  const bandTo = Math.max(angle(bandHigh), angle(bandLow) + 3);
  return (
    <svg
      viewBox="0 0 400 300"
      className={drawingsCss.torqueArc}
      role="img"
      aria-label={`Torque scale in ${unit}`}
    >
      <path d={arc(ENDS[0], ENDS[1], 150)} fill="none" stroke="#d9d2c0" strokeWidth="26" />
      <path
        d={arc(angle(bandLow), bandTo, 150)}
        fill="none"
        stroke={colour.action}
        strokeWidth="26"
      />
      <Numbers low={scaleLow} high={scaleHigh} />
      {at.mark !== null && <SetMark angle={angle(at.mark)} />}
      {at.reading !== null && <Needle angle={angle(at.reading)} />}
      <text x="200" y="258" textAnchor="middle" fontSize="22" fontWeight="600" fill={colour.soft}>
        {unit}
      </text>
    </svg>
  );
}
