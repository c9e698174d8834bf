import { Select, type SelectProps } from "antd";
import { byBeginning } from "./byBeginning";

export type Option = string | { value: string; label: string };

interface Props extends Omit<SelectProps<string>, "options" | "onChange" | "value"> {
  options: readonly Option[];
  value?: string;
  onChange?: (value: string) => void;
  /** A long list is searched by typing. */
  search?: boolean;
}

const MANY = 8;

/** One of several, in a list that opens; a long one is searched by typing. */
export function Choice({ options, value, onChange, search, ...more }: Props) {
  const listed = options.map((one) =>
    typeof one === "string" ? { value: one, label: one } : { ...one },
  );
  const find = search ?? listed.length > MANY;
  return (
    <Select<string>
      // null: nothing is chosen, whatever was before
      value={value === "" && !listed.some((one) => one.value === "") ? null : value}
      onChange={(chosen: string | undefined) => onChange?.(chosen ?? "")}
      options={listed}
      showSearch={find ? { optionFilterProp: "label", filterSort: byBeginning } : false}
      popupMatchSelectWidth={false}
      placeholder="choose"
      {...more}
    />
  );
}
