import { Button } from "antd";
import type { Problem } from "../api/client";
import { Refused } from "./Refused";
import questionCss from "./question.module.css";

export type Answer = (said: string, sure: string) => void;

interface Props {
  problem: Problem | null;
  field: string;
  /** Takes an answer of a question; `sure` where it says that what was typed is right. */
  answer: Answer;
}

/** What the server says of one field: a refusal, or a question with its answers, one tap each. */
export function FieldAnswer({ problem, field, answer }: Props) {
  const found = problem?.errors.find((error) => error.pointer === `/${field}`);
  if (!problem?.question || !found || found.options.length === 0) {
    return <Refused said={found?.detail} />;
  }
  return <Question said={found.detail} options={found.options} sure={found.sure} answer={answer} />;
}

/** A question: nothing is wrong yet, and nothing that was typed is lost. */
export function Question({
  said,
  options,
  sure,
  answer,
}: {
  said: string;
  options: string[];
  sure: string;
  answer: Answer;
}) {
  return (
    <div className={questionCss.question} role="alert">
      <p>{said}</p>
      <div className={questionCss.options}>
        {options.map((option) => (
          <Button
            key={option}
            size="large"
            onClick={() => answer(option, option === sure ? sure : "")}
          >
            {option === sure ? `${option} is right` : option}
          </Button>
        ))}
      </div>
    </div>
  );
}
