import "./shelf.css";
import { useState } from "react";
import type { Shape } from "../api/client";
import { useShelf } from "../api/hooks";
import { colour } from "../theme";
import { Waiting, WentWrong } from "../workshop/States";
import { DASHES, ViscosityChart } from "./ViscosityChart";

type Card = Shape["FluidCard"];

function Row({ fluid, place, toggle }: { fluid: Card; place: number; toggle: () => void }) {
  const drawn = place >= 0;
  return (
    <tr>
      <td>
        <button
          className={drawn ? "draw draw-on" : "draw"}
          aria-pressed={drawn}
          aria-label={`Draw ${fluid.name}`}
          disabled={fluid.curve.length === 0}
          onClick={toggle}
        >
          <svg viewBox="0 0 40 12" width={40} height={12} aria-hidden>
            {drawn && (
              <line
                x1="0"
                x2="40"
                y1="6"
                y2="6"
                stroke={colour.action}
                strokeWidth="4"
                strokeDasharray={DASHES[place]}
              />
            )}
          </svg>
        </button>
      </td>
      <td>
        <b>{fluid.name}</b>
        <span className="soft shelf-label">
          {fluid.label} · {fluid.bottle}
        </span>
      </td>
      <td className="tabular">{fluid.kv40 || "–"}</td>
      <td className="tabular">{fluid.kv100 || "–"}</td>
      <td className="tabular">{fluid.index ?? "–"}</td>
      <td>
        {fluid.satisfies.join(", ") || "–"}
        {fluid.disagrees.map((said) => (
          <span key={said} className="refusal shelf-said">
            {said}
          </span>
        ))}
      </td>
    </tr>
  );
}

/** The fluids: what the label says, what was measured, and how they compare in thickness. */
export function Shelf() {
  const shelf = useShelf();
  const [chosen, setChosen] = useState<string[] | null>(null);
  if (shelf.isPending) return <Waiting what="Going to the shelf" />;
  if (shelf.isError) return <WentWrong error={shelf.error} again={() => void shelf.refetch()} />;
  const { fluids, scales, caveat } = shelf.data;
  if (fluids.length === 0) {
    return (
      <div className="state">
        <h2>No fluids on the shelf yet.</h2>
      </div>
    );
  }
  const drawable = fluids.filter((fluid) => fluid.curve.length > 0);
  const drawn = chosen ?? drawable.slice(0, 2).map((fluid) => fluid.id);
  const toggle = (id: string) =>
    setChosen(
      drawn.includes(id)
        ? drawn.filter((other) => other !== id)
        : [...drawn, id].slice(-DASHES.length),
    );
  const lines = drawn.flatMap((id) => drawable.filter((fluid) => fluid.id === id));
  return (
    <>
      <div className="heading">
        <h1>Shelf</h1>
        <p className="heading-sum">{fluids.length} fluids. Draw up to four to compare them.</p>
      </div>
      <div className="shelf">
        <table className="spec shelf-table">
          <thead>
            <tr>
              <th scope="col">
                <span className="hidden">Draw</span>
              </th>
              <th scope="col">Fluid, as labelled</th>
              <th scope="col">40 °C</th>
              <th scope="col">100 °C</th>
              <th scope="col">Index</th>
              <th scope="col">Measured values satisfy</th>
            </tr>
          </thead>
          <tbody>
            {fluids.map((fluid) => (
              <Row
                key={fluid.id}
                fluid={fluid}
                place={drawn.indexOf(fluid.id)}
                toggle={() => toggle(fluid.id)}
              />
            ))}
          </tbody>
        </table>
        <section className="shelf-chart" aria-label="Thickness over temperature">
          <h2>Thickness over temperature</h2>
          <ViscosityChart fluids={lines} scales={scales} />
          <p className="soft">
            Engine and gear numbers are different scales for one thickness; the same height never
            licenses a substitution. {caveat}
          </p>
        </section>
      </div>
    </>
  );
}
