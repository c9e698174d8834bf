import { Input } from "antd";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useDeferredValue, useState } from "react";
import { api, taken, type Shape } from "../api/client";
import { Refused } from "../workshop/Refused";
import { Why } from "../workshop/Why";

type Card = Shape["FluidCard"];

function useBlend(query: { thin: number; thick: number; target: string; total: string }) {
  return useQuery({
    queryKey: ["blend", query],
    queryFn: () => taken(api.GET("/api/shelf/blend/", { params: { query } })),
    enabled: query.target.trim() !== "" && query.total.trim() !== "",
    retry: false,
    placeholderData: keepPreviousData,
  });
}

function Choice({
  label,
  fluids,
  value,
  choose,
}: {
  label: string;
  fluids: Card[];
  value: number;
  choose: (id: number) => void;
}) {
  return (
    <label>
      {label}
      <select
        className="plain-select"
        value={value}
        onChange={(event) => choose(Number(event.target.value))}
      >
        {fluids.map((fluid) => (
          <option key={fluid.id} value={fluid.id}>
            {fluid.name}, {fluid.kv40} cSt
          </option>
        ))}
      </select>
    </label>
  );
}

/** Two fork oils to one between: how much of each. */
export function Blend({ fluids }: { fluids: Card[] }) {
  const oils = fluids.filter(
    (fluid) => fluid.kv40 && (fluid.family === "fork" || fluid.family === "shock"),
  );
  const sorted = [...oils].sort((a, b) => Number(a.kv40) - Number(b.kv40));
  const [thin, setThin] = useState(sorted[0]?.id ?? 0);
  const [thick, setThick] = useState(sorted.at(-1)?.id ?? 0);
  const [target, setTarget] = useState("");
  const [total, setTotal] = useState("1 l");
  const blend = useBlend({
    thin,
    thick,
    target: useDeferredValue(target),
    total: useDeferredValue(total),
  });
  if (sorted.length < 2) return null;
  return (
    <section className="blend" aria-label="Blend two fork oils">
      <h2>Blend two fork oils</h2>
      <div className="blend-fields">
        <Choice label="One" fluids={sorted} value={thin} choose={setThin} />
        <Choice label="The other" fluids={sorted} value={thick} choose={setThick} />
        <label>
          Wanted at 40 °C
          <Input
            value={target}
            placeholder="26 cSt"
            onChange={(event) => setTarget(event.target.value)}
          />
        </label>
        <label>
          Altogether
          <Input value={total} onChange={(event) => setTotal(event.target.value)} />
        </label>
      </div>
      <Refused said={blend.error?.message} />
      {blend.data && !blend.error && (
        <p className="blend-answer" role="status">
          <b>{blend.data.words}</b>: {blend.data.kv40} at 40 °C
          {blend.data.kv100 && `, ${blend.data.kv100} at 100 °C`}{" "}
          <Why reasons={blend.data.reasons} />
        </p>
      )}
      <p className="soft">
        Fork-oil weights on labels follow no standard: compare and blend by viscosity.
      </p>
    </section>
  );
}
