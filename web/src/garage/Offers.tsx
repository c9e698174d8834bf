import { clsx } from "clsx";
import { Button } from "antd";
import type { Shape } from "../api/client";
import { standOnFirst } from "./cells";
import { ask, useSheetChange, type Page } from "./sheets";
import sheetsCss from "./sheets.module.css";

type Offered = Shape["Offered"];

/** The reservoirs a bike of this layout usually has and the sheet lacks, one tap each. */
export function Offers({ page, show }: { page: Page; show: (reservoir: string) => void }) {
  const change = useSheetChange(page.id);
  if (!page.may_edit || page.offered.length === 0) return null;
  const empty = page.reservoirs.length === 0;
  const add = (one: Offered, stand: boolean) =>
    change.mutate(ask.add(page.id, one.kind, "", one.key, one.label), {
      onSuccess: () => {
        if (!stand) return;
        show(one.key);
        standOnFirst(`${one.key}//`);
      },
    });
  return (
    <section
      className={clsx(sheetsCss.offers, empty && sheetsCss.offersFirst)}
      aria-label="Usual reservoirs"
    >
      <p>
        {empty ? `What holds oil on it? A ${page.model.layout}, usually has:` : "Not on it yet:"}
      </p>
      <div className={sheetsCss.offersRow}>
        {page.offered.map((one) => (
          <Button key={one.key} onClick={() => add(one, true)}>
            + {one.label}
          </Button>
        ))}
        {empty && (
          <Button type="primary" onClick={() => page.offered.forEach((one) => add(one, false))}>
            All of these
          </Button>
        )}
      </div>
    </section>
  );
}
