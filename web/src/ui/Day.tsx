import { DatePicker } from "antd";
import dayjs from "dayjs";
import { DAY } from "./days";

/** A day, chosen or typed; outside it is `2026-11-26`, and empty where there is none. */
export function Day({
  value,
  onChange,
  ...more
}: {
  value?: string;
  onChange?: (day: string) => void;
  id?: string;
  "aria-label"?: string;
  disabled?: boolean;
  placeholder?: string;
  allowClear?: boolean;
}) {
  const day = value ? dayjs(value) : null;
  return (
    <DatePicker
      value={day?.isValid() ? day : null}
      format={[DAY, "YYYY-MM-DD", "D.M.YYYY", "D/M/YYYY"]}
      placeholder="26 Nov 2026"
      allowClear={false}
      onKeyDown={(event) => {
        // Enter takes the day; the form is sent by its button
        if (event.key === "Enter") event.preventDefault();
      }}
      onChange={(chosen) => onChange?.(chosen ? chosen.format("YYYY-MM-DD") : "")}
      {...more}
    />
  );
}
