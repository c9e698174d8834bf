import { clsx } from "clsx";
import { Link } from "react-router";
import type { Shape } from "../api/client";
import firstCss from "./first.module.css";
import textCss from "../ui/text.module.css";

type Step = Shape["FirstStep"];

const SAYS: Record<Step["step"], { what: string; why: string; to: string }> = {
  place: {
    what: "Say where the workshop stands",
    why: "Its time zone decides which day it is; the coldest start decides which oil fits.",
    to: "/workshop",
  },
  people: {
    what: "Add who works here",
    why: "A second person checks the numbers and signs beside an apprentice. Alone, you approve what names its document and page.",
    to: "/workshop/people",
  },
  shelf: {
    what: "Put your oils on the shelf",
    why: "The kit counts in your bottles, and the bench says which oil may go in.",
    to: "/shelf",
  },
  model: {
    what: "Write the first model's spec sheet",
    why: "Capacities, torques and intervals come from there, each with its page in the manual. A lead approves it.",
    to: "/sheets",
  },
  bike: {
    what: "Enter the first bike",
    why: "From then on it stands here with its glasses, and can be serviced.",
    to: "/bikes/new",
  },
};

/** What an empty workshop does first, and what each is for; the next one stands out. */
export function FirstSteps({ steps }: { steps: Step[] }) {
  const next = steps.find((one) => !one.done)?.step;
  return (
    <section className={firstCss.first} aria-label="First steps">
      <h2>An empty ward. This fills it:</h2>
      <ol>
        {steps.map(({ step, done }) => (
          <li key={step} className={clsx(firstCss.step, done && firstCss.done)}>
            <Link
              to={SAYS[step].to}
              className={clsx(textCss.linkButton, step === next && firstCss.next)}
            >
              {SAYS[step].what}
            </Link>
            <span>{done ? "Done." : SAYS[step].why}</span>
          </li>
        ))}
      </ol>
    </section>
  );
}
