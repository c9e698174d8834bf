import { clsx } from "clsx";
import type { Shape } from "../api/client";
import { standOnFirst } from "./cells";
import { ask, useSheetChange, type Page } from "./sheets";
import sheetsCss from "./sheets.module.css";
import textCss from "../ui/text.module.css";

type Line = Shape["MissingLine"];

/** What nobody has written yet; a tap leads to the field, and adds the plug it belongs to. */
export function Missing({ page, show }: { page: Page; show: (reservoir: string) => void }) {
  const change = useSheetChange(page.id);
  if (page.missing.length === 0) return null;
  const lead = (line: Line) => {
    show(line.reservoir);
    if (!line.add || !page.may_edit) return standOnFirst(line.path);
    change.mutate(ask.add(page.id, line.add, line.reservoir, line.add), {
      onSuccess: () => standOnFirst(`${line.reservoir}/${line.add}/`),
    });
  };
  const groups = [...new Set(page.missing.map((line) => line.label))];
  return (
    <section className={sheetsCss.missing} aria-label="Still missing">
      <h3>Still missing: {page.missing.length}</h3>
      {page.missing.some((line) => line.asked) && (
        <p className={textCss.soft}>What has a dot, the run sheet will ask for.</p>
      )}
      {groups.map((label) => (
        <div key={label}>
          <h4>{label}</h4>
          <ul>
            {page.missing
              .filter((line) => line.label === label)
              .map((line) => (
                <li key={line.path}>
                  <button
                    className={clsx(sheetsCss.missingLine, line.asked && sheetsCss.missingAsked)}
                    onClick={() => lead(line)}
                  >
                    {line.text}
                  </button>
                </li>
              ))}
          </ul>
        </div>
      ))}
    </section>
  );
}
