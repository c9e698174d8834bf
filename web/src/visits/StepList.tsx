import type { Shape } from "../api/client";
import type { Sheet } from "./outbox";

const MARK: Record<Shape["StepStatus"], string> = {
  done: "✓",
  skipped: "–",
  focus: "▸",
  waiting: "",
};

/** All steps, thin, at one side. Done ones can be opened and corrected. */
export function StepList({
  sheet,
  shown,
  look,
}: {
  sheet: Sheet;
  shown: string;
  look: (step: string) => void;
}) {
  return (
    <nav className="steps" aria-label="Steps">
      <ol>
        {sheet.steps.map((step) => (
          <li key={step.id}>
            <button
              className={`step step-${step.status}${step.id === shown ? " step-shown" : ""}`}
              disabled={step.status === "waiting"}
              aria-current={step.status === "focus" ? "step" : undefined}
              onClick={() => look(step.id)}
            >
              <span className="step-mark" aria-hidden>
                {MARK[step.status]}
              </span>
              <span>
                {step.title}
                {step.round > 1 && step.kind === "level" ? ` (${step.round})` : ""}
                {step.entry && step.status !== "focus" && step.entry.result !== "done" && (
                  <span className="step-result">{step.entry.result}</span>
                )}
              </span>
            </button>
          </li>
        ))}
      </ol>
    </nav>
  );
}
