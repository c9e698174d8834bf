import { clsx } from "clsx";
import { Button, Input } from "antd";
import { useDeferredValue, useId } from "react";
import { Refusal, type Problem } from "../../api/client";
import { useUnderstood } from "../../api/hooks";
import { FieldAnswer, type Answer } from "../../ui/FieldAnswer";
import asksCss from "./asks.module.css";
import controlsCss from "../../ui/controls.module.css";

interface Props {
  label: string;
  value: string;
  kind: "volume" | "torque" | "distance" | "mass";
  /** What the server said of what was sent, and the field it says it of. */
  problem: Problem | null;
  field: string;
  /** Values that are likely, one tap each. */
  offered?: string[];
  change: (value: string) => void;
  /** Writes down what is typed, or the answer to a question about it. */
  submit: Answer;
}

/** One tap instead of a keyboard: likely values, and a little less or more. Its row is kept free, as they
 * come and go while somebody types and reaches for the button below. */
function Taps({
  offered,
  nudges,
  change,
}: {
  offered: string[];
  nudges: { label: string; text: string }[];
  change: (value: string) => void;
}) {
  return (
    <div className={clsx(asksCss.taps, asksCss.amountTaps)}>
      {offered.map((text) => (
        <Button key={text} onClick={() => change(text)}>
          {text}
        </Button>
      ))}
      {nudges.map(({ label, text }) => (
        <Button key={label} onClick={() => change(text)}>
          {label}
        </Button>
      ))}
    </div>
  );
}

type Understood = ReturnType<typeof useUnderstood>;

/** What was understood of what is typed, unless it says just that. */
function meant(typed: string, { data, error }: Understood): string {
  if (error instanceof Refusal) return error.message;
  const same = data?.words.replaceAll(" ", "") === typed.replaceAll(" ", "");
  return data && !same ? `= ${data.words}` : "";
}

/** What the server said of what was sent, or else what is understood while typing. */
function Said({
  id,
  typed,
  understood,
  problem,
  field,
  answer,
}: Pick<Props, "problem" | "field"> & {
  id: string;
  typed: string;
  understood: Understood;
  answer: Answer;
}) {
  const answered = problem?.errors.some((error) => error.pointer === `/${field}`) ?? false;
  return (
    <div id={id}>
      {answered ? (
        <FieldAnswer problem={problem} field={field} answer={answer} />
      ) : (
        <p className={asksCss.amountSaid}>{meant(typed, understood)}</p>
      )}
    </div>
  );
}

/** An amount typed as one says it; what was understood stands below while typing. */
export function AmountField(props: Props) {
  const { label, value, kind, problem, field, offered = [], change, submit } = props;
  const id = useId();
  const typed = useDeferredValue(value);
  const understood = useUnderstood(typed, kind);
  const refused = problem?.errors.some((error) => error.pointer === `/${field}`);
  return (
    <div className={asksCss.amount}>
      <label htmlFor={id}>{label}</label>
      <Input
        id={id}
        className={controlsCss.amountInput}
        autoComplete="off"
        value={value}
        status={refused && !problem?.question ? "error" : undefined}
        aria-describedby={`${id}-said`}
        onChange={(event) => change(event.target.value)}
        onPressEnter={() => submit(value, "")}
      />
      <Said
        id={`${id}-said`}
        typed={typed}
        understood={understood}
        problem={problem}
        field={field}
        answer={(said, sure) => {
          change(said);
          submit(said, sure);
        }}
      />
      <Taps
        offered={value ? [] : offered}
        nudges={refused ? [] : (understood.data?.nudges ?? [])}
        change={change}
      />
    </div>
  );
}
