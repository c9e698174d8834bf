import { Input } from "antd";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useDeferredValue, useState } from "react";
import { api, taken, type Shape } from "../api/client";
import { keys } from "../api/keys";
import { Choice } from "../ui/Choice";
import { Refused } from "../ui/Refused";
import { Why } from "../ui/Why";
import shelfCss from "./shelf.module.css";
import textCss from "../ui/text.module.css";

type Card = Shape["FluidCard"];

function useBlend(query: Asked) {
  return useQuery({
    queryKey: keys.blend(query),
    queryFn: () => taken(api.GET("/api/shelf/blend/", { params: { query } })),
    enabled: query.target.trim() !== "" && query.total.trim() !== "",
    retry: false,
    placeholderData: keepPreviousData,
  });
}

function Oil({
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
      <Choice
        aria-label={label}
        value={`${value}`}
        options={fluids.map(({ id, name, kv40 }) => ({
          value: `${id}`,
          label: `${name}, ${kv40} cSt`,
        }))}
        onChange={(chosen) => choose(Number(chosen))}
      />
    </label>
  );
}

type Asked = { thin: number; thick: number; target: string; total: string };

function Fields({
  oils,
  asked,
  ask,
}: {
  oils: Card[];
  asked: Asked;
  ask: (more: Partial<Asked>) => void;
}) {
  return (
    <div className={shelfCss.blendFields}>
      <Oil label="One" fluids={oils} value={asked.thin} choose={(thin) => ask({ thin })} />
      <Oil label="The other" fluids={oils} value={asked.thick} choose={(thick) => ask({ thick })} />
      <label>
        Wanted at 40 °C
        <Input
          value={asked.target}
          placeholder="26 cSt"
          onChange={(event) => ask({ target: event.target.value })}
        />
      </label>
      <label>
        Altogether
        <Input value={asked.total} onChange={(event) => ask({ total: event.target.value })} />
      </label>
    </div>
  );
}

/** Two fork oils to one between: how much of each. */
export function Blend({ fluids }: { fluids: Card[] }) {
  const oils = fluids
    .filter((fluid) => fluid.blends)
    .sort((a, b) => Number(a.kv40) - Number(b.kv40));
  const [asked, setAsked] = useState<Asked>({
    thin: oils[0]?.id ?? 0,
    thick: oils.at(-1)?.id ?? 0,
    target: "",
    total: "1 l",
  });
  const blend = useBlend(useDeferredValue(asked));
  if (oils.length < 2) return null;
  return (
    <section className={shelfCss.blend} aria-label="Blend two fork oils">
      <h2>Blend two fork oils</h2>
      <Fields oils={oils} asked={asked} ask={(more) => setAsked({ ...asked, ...more })} />
      <Refused said={blend.error?.message} />
      {blend.data && !blend.error && (
        <p className={shelfCss.blendAnswer} role="status">
          <b>{blend.data.words}</b>: {blend.data.kv40} at 40 °C
          {blend.data.kv100 && `, ${blend.data.kv100} at 100 °C`}{" "}
          <Why reasons={blend.data.reasons} />
        </p>
      )}
      <p className={textCss.soft}>
        Fork-oil weights on labels follow no standard: compare and blend by viscosity.
      </p>
    </section>
  );
}
