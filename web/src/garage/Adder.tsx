import { ListCell } from "./ListCell";
import sheetsCss from "./sheets.module.css";

/** A list to add something from: what is chosen is added at once, by a tap or by typing and Enter. */
export function Adder({
  label,
  options,
  add,
}: {
  label: string;
  options: string[];
  add: (kind: string) => void;
}) {
  return (
    <div className={sheetsCss.adder}>
      <label htmlFor={label}>{label}</label>
      <ListCell
        cell={label}
        className={sheetsCss.adderChoice}
        options={options}
        value=""
        choose={add}
        stays
      />
    </div>
  );
}
