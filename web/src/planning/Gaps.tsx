import { useMutation } from "@tanstack/react-query";
import { Input } from "antd";
import { api, taken, type Shape } from "../api/client";
import { Ask, Field } from "../ui/Ask";
import { Dialog } from "../ui/Dialog";
import { colour } from "../ui/theme";
import sagCss from "./sag.module.css";
import textCss from "../ui/text.module.css";

type Line = Shape["ForceLine"];

const BOX = { left: 64, right: 690, top: 14, bottom: 270, wide: 700, tall: 310 };
const DASHES = ["none", "11 6"];

/** Force over travel, one line a gap; each says its gap where it ends. */
function Curves({ lines }: { lines: Line[] }) {
  const most = Math.max(...lines.flatMap((line) => line.forces));
  const travel = Math.max(...lines.flatMap((line) => line.strokes));
  const x = (mm: number) => BOX.left + (mm / travel) * (BOX.right - BOX.left - 70);
  const y = (n: number) => BOX.bottom - (n / most) * (BOX.bottom - BOX.top);
  const ends = lines.map((line) => y(line.forces.at(-1) ?? 0));
  const apart = Math.abs((ends[0] ?? 0) - (ends[1] ?? 0)) < 18;
  return (
    <svg
      viewBox={`0 0 ${BOX.wide} ${BOX.tall}`}
      width="100%"
      role="img"
      aria-label="Force over travel"
    >
      <g fontSize="14" fill={colour.soft} stroke="none">
        {[0, 0.25, 0.5, 0.75, 1].map((share) => (
          <g key={share}>
            <line
              x1={BOX.left}
              x2={x(travel)}
              y1={y(share * most)}
              y2={y(share * most)}
              stroke={colour.line}
            />
            <text x={BOX.left - 8} y={y(share * most) + 5} textAnchor="end">
              {Math.round((share * most) / 10) * 10} N
            </text>
            <text x={x(share * travel)} y={BOX.bottom + 22} textAnchor="middle">
              {Math.round(share * travel)} mm
            </text>
          </g>
        ))}
      </g>
      {lines.map((line, n) => (
        <g key={line.gap + String(n)}>
          <polyline
            fill="none"
            stroke={n ? colour.alarm : colour.action}
            strokeWidth={3}
            strokeDasharray={DASHES[n]}
            points={line.strokes.map((mm, at) => `${x(mm)},${y(line.forces[at] ?? 0)}`).join(" ")}
          />
          <text
            x={x(travel) + 8}
            y={(ends[n] ?? 0) + 5 + (apart && ends[n] === Math.max(...ends) ? 18 : 0)}
            fontSize="15"
            fill={n ? colour.alarm : colour.action}
          >
            {line.gap}
          </text>
        </g>
      ))}
    </svg>
  );
}

/** What another air gap does, beside the sheet's: nothing of it is kept. */
export function Gaps({
  bike,
  reservoir,
  close,
}: {
  bike: string;
  reservoir: Shape["ReservoirPage"];
  close: () => void;
}) {
  const { key, label } = reservoir.glass;
  const asked = useMutation({
    mutationFn: (body: Shape["GapReadRequest"]) =>
      taken(
        api.POST("/api/bikes/{bike_id}/gap/{reservoir}/", {
          params: { path: { bike_id: bike, reservoir: key } },
          body,
        }),
      ),
  });
  return (
    <Dialog open title={`Another air gap: ${label}`} onCancel={close} footer={null} width={760}>
      <Ask
        initial={{ gap: "" }}
        send={(given, sure) => asked.mutate({ ...given, sure })}
        error={asked.error}
        pending={asked.isPending}
        submit="Beside the sheet’s"
      >
        <Field name="gap" label="Air gap">
          <Input placeholder="100 mm" />
        </Field>
      </Ask>
      {asked.data && (
        <section aria-live="polite" className={sagCss.says}>
          <p className={sagCss.words}>{asked.data.words}</p>
          <Curves lines={asked.data.lines} />
          <p className={textCss.soft}>
            Air as a spring, neither slow nor fast, with the leg’s steel one; the steel one’s own
            room is left out. The sheet’s gap is the one to set.
          </p>
        </section>
      )}
    </Dialog>
  );
}
