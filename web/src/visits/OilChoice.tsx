import { Input } from "antd";
import { Choice } from "../ui/Choice";
import { oilOptions } from "./oils";
import asksCss from "./asks/asks.module.css";

/** Which oil goes in: one of the shelf's, or another by its name and what stands on its bottle. */
export interface Oil {
  fluid: string;
  /** None for one of the shelf's. */
  label: string | null;
}

interface Props {
  called: string;
  fluids: Parameters<typeof oilOptions>[0];
  oil: Oil;
  change: (oil: Oil) => void;
}

const ANOTHER = { value: "another oil", label: "Another oil, by name and grade" };

/** One of the shelf's, best first, or another oil. */
export function OilChoice({ called, fluids, oil, change }: Props) {
  const { fluid, label } = oil;
  return (
    <>
      <Choice
        aria-label={called}
        placeholder="Nothing on the shelf fits"
        value={label === null ? fluid : ANOTHER.value}
        options={[...oilOptions(fluids), ANOTHER]}
        onChange={(chosen) =>
          change(
            chosen === ANOTHER.value ? { fluid: "", label: "" } : { fluid: chosen, label: null },
          )
        }
      />
      {label !== null && (
        <div className={asksCss.otherOil}>
          <Input
            aria-label="What it is called"
            placeholder="its name"
            maxLength={60}
            value={fluid}
            onChange={({ target }) => change({ fluid: target.value, label })}
          />
          <Input
            aria-label="Grade and class on its bottle"
            placeholder="75W-90 GL-5"
            maxLength={40}
            value={label}
            onChange={({ target }) => change({ fluid, label: target.value })}
          />
        </div>
      )}
    </>
  );
}
