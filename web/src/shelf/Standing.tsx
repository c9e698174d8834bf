import { clsx } from "clsx";
import type { Shape } from "../api/client";
import { BottleGlass } from "./Bottles";
import { useStock } from "./stock";
import shelfCss from "./shelf.module.css";
import textCss from "../ui/text.module.css";

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
        <span className={clsx(textCss.soft, shelfCss.shelfLabel)}>
          {[fluid.family, fluid.label].filter(Boolean).join(" · ")}
        </span>
      </span>
      <span className={shelfCss.standingBottles}>
        {open.map((bottle) => (
          <span key={bottle.id} className={shelfCss.standingBottle}>
            <BottleGlass share={bottle.share} />
            <span>
              <b className={textCss.tabular}>{bottle.left}</b>
              <span className={clsx(textCss.soft, shelfCss.shelfLabel)}>
                open, of {bottle.size}
              </span>
            </span>
          </span>
        ))}
        {sizes.map((size) => (
          <span key={size} className={shelfCss.standingBottle}>
            <BottleGlass share={1} />
            <span>
              <b className={textCss.tabular}>
                {sealed.filter((bottle) => bottle.size === size).length} × {size}
              </b>
              <span className={clsx(textCss.soft, shelfCss.shelfLabel)}>sealed</span>
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
    <section className={shelfCss.shelfPaper} aria-label="On the shelf">
      <h2>On the shelf</h2>
      <ul className={shelfCss.standingList}>
        {rows.map(({ fluid, own }) => (
          <li key={fluid.id}>
            {open ? (
              <button
                className={shelfCss.standingRow}
                aria-label={`Bottles of ${fluid.name}`}
                onClick={() => open(fluid)}
              >
                <Row fluid={fluid} bottles={own} />
              </button>
            ) : (
              <div className={shelfCss.standingRow}>
                <Row fluid={fluid} bottles={own} />
              </div>
            )}
          </li>
        ))}
      </ul>
      {stock.data && rows.length === 0 && <p className={textCss.soft}>No bottle stands there.</p>}
    </section>
  );
}
