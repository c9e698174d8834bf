import { fieldSentence } from "../../api/client";
import { Refused } from "../../ui/Refused";
import { OilChoice, type Oil } from "../OilChoice";
import type { StepProps, Task } from "../sheet";
import asksCss from "./asks.module.css";

interface OilProps {
  task: Task;
  oil: Oil;
  problem: StepProps["problem"];
  change: (oil: Oil) => void;
}

/** What was chosen at the start, and can still be changed. */
export function WhichOil({ task, oil, problem, change }: OilProps) {
  const refused = ["fluid", "label"].map((field) => fieldSentence(problem, field)).join("");
  return (
    <div className={asksCss.fillOil}>
      Oil <OilChoice called="Oil that goes in" fluids={task.fluids} oil={oil} change={change} />
      <Refused said={refused} />
    </div>
  );
}

function withoutLabel(name: string, label: string): string {
  const end = `, ${label}`;
  return name.endsWith(end) ? name.slice(0, -end.length) : name;
}

/** The oil that was chosen for the reservoir, the shelf's or another by its label. */
export function chosenOil(task: Task | undefined): Oil {
  const chosen = task?.fluid ?? "";
  const label = task?.oil_label ?? "";
  if (label) return { fluid: withoutLabel(chosen, label), label };
  const there = task?.fluids.some(({ name }) => name === chosen);
  return { fluid: there ? chosen : "", label: null };
}
