import { Button } from "antd";
import { BikeMap, MapList } from "../glass/BikeMap";
import type { Placed } from "../glass/places";
import { Refused } from "../ui/Refused";
import { ask, useSheetChange, type Page } from "./sheets";
import sheetsCss from "./sheets.module.css";
import textCss from "../ui/text.module.css";

interface Part {
  id: string;
  label: string;
  role: string;
  revision: number;
  x: number | null;
  y: number | null;
}

function partsOf(page: Page): Part[] {
  return page.reservoirs.flatMap((block) =>
    block.parts.map(({ key, role, revision, x, y }) => ({
      id: `${block.key}/${key}/spot`,
      label: `${block.label}, ${key}`,
      role,
      revision,
      x,
      y,
    })),
  );
}

const isPlaced = (part: Part): part is Part & Placed => part.x !== null && part.y !== null;

/** The bike map of a sheet: drag a plug to its place, or use the arrow keys. */
export function MapEditor({ page }: { page: Page }) {
  const change = useSheetChange(page.id);
  const parts = partsOf(page);
  const move = (id: string, x: number, y: number) => {
    const part = parts.find((one) => one.id === id);
    if (!part) return;
    const written = `${x.toFixed(2)} ${y.toFixed(2)}`;
    change.mutate(ask.write(page.id, [{ path: id, written, revision: part.revision }]));
  };
  const loose = parts.filter((part) => !isPlaced(part));
  const placed = parts.filter(isPlaced);
  return (
    <section className={sheetsCss.res} aria-label="Bike map">
      <p className={textCss.soft}>
        {page.may_edit
          ? "Drag each plug to its place, or choose it with Tab and move it with the arrow keys."
          : "Where each plug is."}
      </p>
      <BikeMap layout={page.model.layout} plugs={placed} move={page.may_edit ? move : undefined} />
      <MapList plugs={placed} />
      <Refused said={change.error?.message} />
      {page.may_edit && loose.length > 0 && (
        <div className={sheetsCss.loose}>
          <span>Not placed yet:</span>
          {loose.map((part) => (
            <Button key={part.id} onClick={() => move(part.id, 0.5, 0.5)}>
              {part.label}
            </Button>
          ))}
        </div>
      )}
    </section>
  );
}
