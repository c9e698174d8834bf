import { Input } from "antd";
import { focusNext } from "./cells";
import { ListCell } from "./ListCell";
import type { Row } from "./sheets";
import sheetsCss from "./sheets.module.css";

interface Props {
  row: Row;
  value: string;
  disabled: boolean;
  bad: boolean;
  type: (text: string) => void;
  /** Writes what is typed, where anything is. */
  put: () => void;
  /** Writes what was chosen at once. */
  choose: (text: string) => void;
}

function Text({ row, value, disabled, bad, type, put }: Props) {
  return (
    <Input
      id={row.path}
      data-cell={row.path}
      className={sheetsCss.cellInput}
      autoComplete="off"
      value={value}
      disabled={disabled}
      status={bad ? "error" : undefined}
      placeholder={disabled ? "" : row.hint}
      onChange={(event) => type(event.target.value)}
      onBlur={put}
      onPressEnter={(event) => {
        event.preventDefault();
        put();
        focusNext(event.currentTarget);
      }}
    />
  );
}

/** The field of one value: typed freely, or chosen where the sheet knows what it can be. */
export function CellInput(props: Props) {
  const { row, value, disabled, bad, choose } = props;
  if (row.choices.length === 0) return <Text {...props} />;
  return (
    <ListCell
      cell={row.path}
      className={sheetsCss.cellInput}
      options={row.choices}
      value={value}
      disabled={disabled}
      bad={bad}
      choose={choose}
    />
  );
}
