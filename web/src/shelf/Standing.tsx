import type { Shape } from "../api/client";
import { BottleGlass } from "./Bottles";
import { useStock } from "./stock";

type Card = Shape["FluidCard"];
type Line = Shape["BottleLine"];

/** The bottles of one fluid: sealed ones counted, each open one with what is left in it. */
function Row({ fluid, bottles }: { fluid: Card; bottles: Line[] }) {
  const sealed = bottles.filter((bottle) => !bottle.opened_on);
  const open = bottles.filter((bottle) => bottle.opened_on);
  const sizes = [...new Set(sealed.map((bottle) => bottle.size))];
  return (
    <>
      <span>
        <b>{fluid.name}</b>
        <span className="soft shelf-label">
          {[fluid.family, fluid.label].filter(Boolean).join(" · ")}
        </span>
      </span>
      <span className="standing-bottles">
        {open.map((bottle) => (
          <span key={bottle.id} className="standing-bottle">
            <BottleGlass share={bottle.share} />
            <span>
              <b className="tabular">{bottle.left}</b>
              <span className="soft shelf-label">open, of {bottle.size}</span>
            </span>
          </span>
        ))}
        {sizes.map((size) => (
          <span key={size} className="standing-bottle">
            <BottleGlass share={1} />
            <span>
              <b className="tabular">
                {sealed.filter((bottle) => bottle.size === size).length} × {size}
              </b>
              <span className="soft shelf-label">sealed</span>
            </span>
          </span>
        ))}
      </span>
    </>
  );
}

/** What stands on the shelf, fluid by fluid. */
export function Standing({
  fluids,
  open,
}: {
  fluids: Card[];
  open: ((fluid: Card) => void) | null;
}) {
  const stock = useStock();
  const bottles = stock.data?.bottles ?? [];
  const rows = fluids
    .map((fluid) => ({ fluid, own: bottles.filter((bottle) => bottle.fluid === fluid.id) }))
    .filter(({ own }) => own.length > 0);
  return (
    <section className="shelf-paper" aria-label="On the shelf">
      <h2>On the shelf</h2>
      <ul className="standing-list">
        {rows.map(({ fluid, own }) => (
          <li key={fluid.id}>
            {open ? (
              <button
                className="standing-row"
                aria-label={`Bottles of ${fluid.name}`}
                onClick={() => open(fluid)}
              >
                <Row fluid={fluid} bottles={own} />
              </button>
            ) : (
              <div className="standing-row">
                <Row fluid={fluid} bottles={own} />
              </div>
            )}
          </li>
        ))}
      </ul>
      {stock.data && rows.length === 0 && <p className="soft">No bottle stands there.</p>}
    </section>
  );
}
