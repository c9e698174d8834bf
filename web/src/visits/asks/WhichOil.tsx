import { Input } from "antd";
import { fieldSentence } from "../../api/client";
import { Choice } from "../../ui/Choice";
import { Refused } from "../../ui/Refused";
import { oilOptions } from "../oils";
import type { StepProps, Task } from "../sheet";
import asksCss from "./asks.module.css";

/** Which oil goes in: one of the shelf's, or another by its name and what stands on its bottle. */
export interface Oil {
  fluid: string;
  /** None for one of the shelf's. */
  label: string | null;
}

interface OilProps {
  task: Task;
  oil: Oil;
  problem: StepProps["problem"];
  change: (oil: Oil) => void;
}

const ANOTHER = { value: "another oil", label: "Another oil, by name and grade" };

/** What was chosen at the start, and can still be changed. */
export function WhichOil({ task, oil, problem, change }: OilProps) {
  const { fluid, label } = oil;
  const refused = ["fluid", "label"].map((field) => fieldSentence(problem, field)).join("");
  return (
    <div className={asksCss.fillOil}>
      Oil{" "}
      <Choice
        aria-label="Oil that goes in"
        placeholder="Nothing on the shelf fits"
        value={label === null ? fluid : ANOTHER.value}
        options={[...oilOptions(task.fluids), ANOTHER]}
        onChange={(chosen) =>
          change(
            chosen === ANOTHER.value ? { fluid: "", label: "" } : { fluid: chosen, label: null },
          )
        }
      />
      {label !== null && (
        <>
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
        </>
      )}
      <Refused said={refused} />
    </div>
  );
}

/** The oil that was chosen for the reservoir, where it is one of the shelf's. */
export function chosenOil(task: Task | undefined): Oil {
  const chosen = task?.fluid ?? "";
  const there = task?.fluids.some(({ name }) => name === chosen);
  return { fluid: there ? chosen : "", label: null };
}
