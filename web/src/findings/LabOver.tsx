import { clsx } from "clsx";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Button, Segmented, type TableColumnsType } from "antd";
import { useState } from "react";
import { CartesianGrid, ComposedChart, Line, ReferenceLine, YAxis } from "recharts";
import { api, taken, type Shape } from "../api/client";
import { keys } from "../api/keys";
import { colour } from "../ui/theme";
import { Refused } from "../ui/Refused";
import { ASIDE, Chart, km, MARGIN, TICK, type Axis } from "./Chart";
import { LabelLink } from "./Laboratory";
import controlsCss from "../ui/controls.module.css";
import textCss from "../ui/text.module.css";
import verdictCss from "../ui/verdict.module.css";
import wearCss from "./wear.module.css";

type Lab = Shape["LabHistory"];
type Element = Shape["ElementSeries"];

function rowsOf(lab: Lab, element: Element) {
  return lab.points.map((point, index) => ({
    key: `${point.label} ${index}`,
    km: point.km,
    at: point.at,
    on: point.on,
    value: element.values[index] ?? null,
    smooth: element.smooth[index] ?? null,
    particles: point.particles,
    whence: point.simulated ? "simulated" : point.laboratory,
  }));
}

type Row = ReturnType<typeof rowsOf>[number];

const COLUMNS: TableColumnsType<Row> = [
  { title: "Taken", dataIndex: "on", className: textCss.tabular },
  { title: "At", dataIndex: "at", className: textCss.tabular },
  { title: "mg/kg per 1000 km", dataIndex: "value" },
  { title: "Particles, ISO 4406", dataIndex: "particles" },
  { title: "Laboratory", dataIndex: "whence" },
];

function ElementOver({ lab, axis }: { lab: Lab; axis: Axis }) {
  const [name, setName] = useState("");
  const element = lab.elements.find((one) => one.element === name) ?? lab.elements[0];
  if (!element) return null;
  const rows = rowsOf(lab, element);
  return (
    <>
      <Segmented
        aria-label="Element"
        className={wearCss.elements}
        options={lab.elements.map((one) => one.element)}
        value={element.element}
        onChange={setName}
      />
      <Chart
        title={`${element.element} in the oil, mg/kg per 1000 km above fresh`}
        says={`Usually from: ${element.means}.`}
        height={190}
        columns={COLUMNS}
        rows={rows}
      >
        <ComposedChart data={rows} margin={MARGIN}>
          <CartesianGrid stroke={colour.line} vertical={false} />
          {km(axis)}
          <YAxis tick={TICK} width={ASIDE} domain={[0, "auto"]} />
          {element.high !== null && (
            <ReferenceLine y={element.high} stroke={colour.alarm} strokeDasharray="8 5" />
          )}
          <Line
            dataKey="value"
            stroke={colour.soft}
            strokeWidth={1}
            isAnimationActive={false}
            dot={{ r: 6, fill: colour.soft }}
          />
          <Line
            dataKey="smooth"
            stroke={colour.ink}
            strokeWidth={3}
            isAnimationActive={false}
            dot={false}
          />
        </ComposedChart>
      </Chart>
    </>
  );
}

/** What the newest report says by its rules. */
function Said({ lab }: { lab: Lab }) {
  const { newest } = lab;
  if (!newest)
    return <p className={textCss.soft}>No laboratory has said anything of this oil yet.</p>;
  return (
    <ul className={wearCss.labSaid}>
      {newest.remarks.map((remark) => (
        <li key={remark.text}>
          <b className={clsx(verdictCss.verdict, verdictCss[`verdict-${remark.level}`])}>
            {remark.level}:
          </b>{" "}
          {remark.text}
        </li>
      ))}
      {newest.remarks.length === 0 && <li>Viscosity, water and fuel are as they should be.</li>}
      {newest.particles && <li>Particles {newest.particles} (ISO 4406).</li>}
      {newest.simulated && (
        <li className={textCss.soft}>This report is simulated: nobody measured it.</li>
      )}
    </ul>
  );
}

function TakeSample({ bike, reservoir }: { bike: string; reservoir: string }) {
  const client = useQueryClient();
  const [id] = useState(() => crypto.randomUUID());
  const take = useMutation({
    mutationFn: () => taken(api.POST("/api/lab/samples/", { body: { id, bike, reservoir } })),
    onSuccess: () => client.invalidateQueries({ queryKey: keys.samples }),
  });
  return (
    <div className={controlsCss.choices}>
      {take.data ? (
        <p>
          Print its label and stick it on the bottle: <LabelLink sample={take.data} />
        </p>
      ) : (
        <Button loading={take.isPending} onClick={() => take.mutate()}>
          Take a sample for the laboratory
        </Button>
      )}
      <Refused said={take.error?.message} />
    </div>
  );
}

/** What laboratories said of this reservoir's oil, on the same axis. */
export function LabOver({
  bike,
  reservoir,
  axis,
  mayWork,
}: {
  bike: string;
  reservoir: string;
  axis: Axis;
  mayWork: boolean;
}) {
  const { data: lab } = useQuery({
    queryKey: keys.lab(bike, reservoir),
    queryFn: () =>
      taken(
        api.GET("/api/bikes/{bike_id}/lab/{reservoir}/", {
          params: { path: { bike_id: bike, reservoir } },
        }),
      ),
  });
  if (!lab) return null;
  return (
    <section aria-label="Laboratory">
      <h2>Laboratory</h2>
      <Said lab={lab} />
      <ElementOver lab={lab} axis={axis} />
      {mayWork && <TakeSample bike={bike} reservoir={reservoir} />}
    </section>
  );
}
