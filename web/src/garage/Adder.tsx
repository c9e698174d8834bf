import { ListCell } from "./ListCell";

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
    <div className="adder">
      <label htmlFor={label}>{label}</label>
      <ListCell
        cell={label}
        className="adder-choice"
        options={options}
        value=""
        choose={add}
        stays
      />
    </div>
  );
}
