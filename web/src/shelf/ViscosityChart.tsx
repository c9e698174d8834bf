import type { Shape } from "../api/client";
import { colour } from "../ui/theme";
import shelfCss from "./shelf.module.css";

type Drawn = Pick<Shape["FluidCard"], "id" | "name" | "curve">;

export const DASHES = ["none", "11 6", "2 6", "16 5 3 5"];
const LINES = [3, 5, 10, 20, 50, 100, 200, 500, 1000, 2000, 5000];
const TEMPERATURES = [0, 20, 40, 60, 80, 100, 120, 140];
const BOX = { left: 66, right: 520, top: 16, bottom: 430 };
const THICKEST = 12_000;
const THINNEST = 2.4;

/** The axes on which an oil is a straight line: log of temperature, double log of viscosity. */
const x = (t: number) => {
  const at = (value: number) => Math.log10(value + 273.15);
  return BOX.left + ((at(t) - at(0)) / (at(140) - at(0))) * (BOX.right - BOX.left);
};
const y = (v: number) => {
  const at = (value: number) => Math.log10(Math.log10(Math.max(value, THINNEST) + 0.7));
  const share = (at(v) - at(THINNEST)) / (at(THICKEST) - at(THINNEST));
  return BOX.bottom - share * (BOX.bottom - BOX.top);
};

function Grid() {
  return (
    <g fontSize="14" fill={colour.soft}>
      {LINES.map((v) => (
        <g key={v}>
          <line x1={BOX.left} x2={BOX.right} y1={y(v)} y2={y(v)} stroke={colour.line} />
          <text x={BOX.left - 8} y={y(v) + 5} textAnchor="end">
            {v}
          </text>
        </g>
      ))}
      {TEMPERATURES.map((t) => (
        <g key={t}>
          <line x1={x(t)} x2={x(t)} y1={BOX.top} y2={BOX.bottom} stroke={colour.line} />
          <text x={x(t)} y={BOX.bottom + 20} textAnchor="middle">
            {t}
          </text>
        </g>
      ))}
      <text x={16} y={BOX.top + 4}>
        cSt
      </text>
      <text x={16} y={BOX.bottom + 20}>
        °C
      </text>
    </g>
  );
}

/** Engine and gear grades beside the chart, at the heights they have at 100 °C. */
function Ladder({ scale, at }: { scale: Shape["Scale"]; at: number }) {
  return (
    <g fontSize="13">
      <text x={at + 22} y={BOX.bottom + 20} textAnchor="middle" fill={colour.soft}>
        {scale.name}
      </text>
      {scale.bands.map(({ grade, low, high }, index) => {
        const top = y(high ?? 60);
        const tall = y(low) - top;
        return (
          <g key={grade}>
            <rect
              x={at}
              y={top}
              width={44}
              height={tall}
              fill="none"
              stroke={colour.metal}
              strokeWidth="1.2"
            />
            {tall > 9 && (
              // grades overlap: their numbers stand left and right in turn
              <text
                x={at + 12 + 20 * (index % 2)}
                y={top + tall / 2 + 4}
                textAnchor="middle"
                fill={colour.ink}
              >
                {grade}
              </text>
            )}
          </g>
        );
      })}
    </g>
  );
}

/** What is asked for at one temperature, as a gate the line has to go through. */
function Window({ t, range }: { t: number; range: number[] }) {
  const [low, high] = range;
  if (low === undefined || high === undefined) return null;
  return (
    <rect
      x={x(t) - 9}
      y={y(high)}
      width={18}
      height={Math.max(4, y(low) - y(high))}
      fill="none"
      stroke={colour.warn}
      strokeWidth="4"
    />
  );
}

/** Straight lines on double-log axes; grades stand beside them at their height at 100 °C. */
export function ViscosityChart({
  fluids,
  scales,
  wanted,
}: {
  fluids: Drawn[];
  scales: Shape["Scale"][];
  wanted?: Shape["Wanted"];
}) {
  return (
    <svg
      viewBox="0 0 640 462"
      className={shelfCss.chart}
      role="img"
      aria-label={`Viscosity over temperature: ${fluids.map((fluid) => fluid.name).join(", ")}`}
    >
      <Grid />
      <text x={BOX.right + 63} y={BOX.top + 4} textAnchor="middle" fontSize="14" fill={colour.soft}>
        at 100 °C
      </text>
      {scales.map((scale, index) => (
        <Ladder key={scale.name} scale={scale} at={BOX.right + 14 + index * 54} />
      ))}
      {wanted && <Window t={40} range={wanted.at40} />}
      {wanted && <Window t={100} range={wanted.at100} />}
      {fluids.map((fluid, index) => (
        <polyline
          key={fluid.id}
          points={fluid.curve.map(({ t, v }) => `${x(t)},${y(v)}`).join(" ")}
          fill="none"
          stroke={colour.action}
          strokeWidth="3.5"
          strokeDasharray={DASHES[index]}
        />
      ))}
      <line
        x1={x(100)}
        x2={x(100)}
        y1={BOX.top}
        y2={BOX.bottom}
        stroke={colour.ink}
        strokeWidth="1.5"
      />
    </svg>
  );
}
