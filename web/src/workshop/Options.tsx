import { Button } from "antd";
import type { Problem } from "../api/client";

/** The answers a question offers, one tap each. */
export function Options({
  problem,
  field,
  choose,
}: {
  problem: Problem | null;
  field: string;
  choose: (answer: string) => void;
}) {
  const found = problem?.errors.find((error) => error.pointer === `/${field}`);
  if (!found || found.options.length === 0) return null;
  return (
    <div className="options">
      {found.options.map((option) => (
        <Button key={option} onClick={() => choose(option)}>
          {option}
        </Button>
      ))}
    </div>
  );
}
