import { Button } from "antd";
import { Bottles } from "../../glass/Bottles";
import { Choice } from "../../ui/Choice";
import { Why } from "../../ui/Why";
import { useDraft } from "../draft";
import { isClosed, type StepProps, type Task } from "../sheet";
import { AmountField } from "./AmountField";
import asksCss from "./asks.module.css";
import controlsCss from "../../ui/controls.module.css";

function Coach({ coach }: { coach: NonNullable<Task["coach"]> }) {
  return (
    <div className={asksCss.coach}>
      <p className={asksCss.coachWords}>{coach.words}</p>
      <p>
        {coach.belief} <Why reasons={coach.reasons} />
      </p>
      <Bottles count={coach.bottles} />
    </div>
  );
}

/** Which oil goes in: what was chosen at the start, and can still be changed. */
function Oil({
  task,
  fluid,
  change,
}: {
  task: Task;
  fluid: string;
  change: (fluid: string) => void;
}) {
  if (task.fluids.length === 0) return null;
  return (
    <label className={asksCss.fillOil}>
      Oil{" "}
      <Choice
        aria-label="Oil that goes in"
        value={fluid}
        options={task.fluids.map(({ name, stock }) => ({
          value: name,
          label: `${name} · ${stock}`,
        }))}
        onChange={change}
      />
    </label>
  );
}

/** It is in, or it is out: and how the reservoir was closed, or where it was taken from. */
function Poured({
  step,
  busy,
  pour,
  draw,
}: Pick<StepProps, "step" | "busy"> & {
  pour: (closed: boolean) => void;
  draw: (where: string) => void;
}) {
  const ways = step.draws
    ? step.options.map(({ code, words }) => ({ words: `Out, ${words}`, go: () => draw(code) }))
    : [
        { words: "It is in, filler closed", go: () => pour(true) },
        { words: "It is in, filler still open", go: () => pour(false) },
      ];
  return (
    <div className={controlsCss.choices}>
      {ways.map(({ words, go }, index) => (
        <Button
          key={words}
          type={index === 0 ? "primary" : "default"}
          className={index === 0 ? controlsCss.bigAction : controlsCss.wideChoice}
          disabled={busy}
          onClick={go}
        >
          {words}
        </Button>
      ))}
    </div>
  );
}

/** The oil that was chosen for the reservoir, where it is one that fits. */
function chosenOil(task: Task | undefined): string {
  const chosen = task?.fluid ?? "";
  return task?.fluids.some(({ name }) => name === chosen) ? chosen : "";
}

/** What the coach says to pour or take out, and what was really poured. */
export function FillStep({ sheet, step, task, problem, busy, send }: StepProps) {
  // what the coach says now belongs to the step in hand, not to one being corrected
  const coach = isClosed(step) ? null : (task?.coach ?? null);
  const [amount, setAmount] = useDraft(`${sheet.id}.${step.id}`, coach?.amount ?? "");
  const [fluid, setFluid] = useDraft(`${sheet.id}.${step.id}.oil`, chosenOil(task));
  const pour = (said: string, sure: string, closed: boolean) =>
    send("pour", { amount: said, sure, closed, fluid });
  const draw = (said: string, sure: string, where: string) =>
    send("draw", { amount: said, sure, where });
  const write = (said: string, sure: string) =>
    step.draws ? draw(said, sure, step.options[0]?.code ?? "") : pour(said, sure, true);
  return (
    <>
      {coach && <Coach coach={coach} />}
      {task && !step.draws && <Oil task={task} fluid={fluid} change={setFluid} />}
      <AmountField
        label="Measured amount"
        value={amount}
        kind="volume"
        problem={problem}
        field="amount"
        change={setAmount}
        submit={write}
      />
      <Poured
        step={step}
        busy={busy}
        pour={(closed) => pour(amount, "", closed)}
        draw={(where) => draw(amount, "", where)}
      />
    </>
  );
}
