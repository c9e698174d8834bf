import "./shelf.css";
import { Button } from "antd";
import { useState } from "react";
import type { Shape } from "../api/client";
import { useShelf } from "../api/hooks";
import { colour } from "../theme";
import { Waiting, WentWrong } from "../workshop/States";
import { Blend } from "./Blend";
import { Drawer } from "./Stock";
import { EMPTY, FluidDialog } from "./FluidDialog";
import { DASHES, ViscosityChart } from "./ViscosityChart";

type Card = Shape["FluidCard"];

function Row({
  fluid,
  place,
  toggle,
  open,
}: {
  fluid: Card;
  place: number;
  toggle: () => void;
  open: (() => void) | null;
}) {
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
        {open ? (
          <button className="fluid-name" onClick={open}>
            {fluid.name}
          </button>
        ) : (
          <b>{fluid.name}</b>
        )}
        <span className="soft shelf-label">
          {[fluid.family, fluid.label, fluid.bottle].filter(Boolean).join(" · ")}
        </span>
      </td>
      <td className="tabular">{fluid.kv40 || "–"}</td>
      <td className="tabular">{fluid.kv100 || "–"}</td>
      <td className="tabular">{fluid.index ?? "–"}</td>
      <td>
        {fluid.satisfies.join(", ") || "–"}
        {!fluid.cold_ok && <span className="shelf-said shelf-cold">{fluid.cold}</span>}
        {fluid.swells && <span className="soft shelf-label">{fluid.swells}</span>}
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
export function Shelf({ mayWork }: { mayWork: boolean }) {
  const shelf = useShelf();
  const [chosen, setChosen] = useState<number[] | null>(null);
  const [opened, setOpened] = useState<Required<Shape["FluidForm"]> | null>(null);
  if (shelf.isPending) return <Waiting what="Going to the shelf" />;
  if (shelf.isError) return <WentWrong error={shelf.error} again={() => void shelf.refetch()} />;
  const { fluids, scales, caveat, families, coldest } = shelf.data;
  const drawable = fluids.filter((fluid) => fluid.curve.length > 0);
  const drawn = chosen ?? drawable.slice(0, 2).map((fluid) => fluid.id);
  const toggle = (id: number) =>
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
        <p className="heading-sum">
          {fluids.length} fluids. Draw up to four to compare them. Coldest start expected: {coldest}
          .
        </p>
        {mayWork && (
          <Button type="primary" onClick={() => setOpened(EMPTY)}>
            New fluid
          </Button>
        )}
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
                open={mayWork ? () => setOpened({ ...EMPTY, ...fluid.form }) : null}
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
          <Blend fluids={fluids} />
          <Drawer mayWork={mayWork} />
        </section>
      </div>
      {opened && <FluidDialog start={opened} families={families} close={() => setOpened(null)} />}
    </>
  );
}
