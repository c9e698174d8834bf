import { clsx } from "clsx";
import { Button, Input } from "antd";
import { Ask, Field } from "../../ui/Ask";
import { Choice } from "../../ui/Choice";
import { Refusal } from "../../api/client";
import { useDraft } from "../draft";
import type { StepProps } from "../sheet";
import askCss from "../../ui/ask.module.css";
import asksCss from "./asks.module.css";
import controlsCss from "../../ui/controls.module.css";

interface Found {
  written: string;
  document: string;
  page: string;
}

/** What somebody wrote for this bike, and nobody has compared yet: a lead says that it stands. */
function OwnWaits({ step, busy, send }: Pick<StepProps, "step" | "busy" | "send">) {
  if (!step.own) return null;
  return (
    <div className={asksCss.ownWaits}>
      <p>
        <b>{step.own.written}</b> is written for this bike, by {step.own.by}
        {step.own.source && `, from ${step.own.source}`}. Nobody has compared it. Look it up, or a
        lead says that it stands.
      </p>
      <Button size="large" loading={busy} onClick={() => send("look up", { stands: true })}>
        It stands
      </Button>
    </div>
  );
}

/** A value the sheet does not give: what the manual says, and where it says so. */
export function LookUpStep({ sheet, step, problem, busy, send }: StepProps) {
  const [draft, setDraft] = useDraft<Found>(`${sheet.id}.${step.id}`, {
    written: "",
    document: "",
    page: "",
  });
  return (
    <>
      <OwnWaits step={step} busy={busy} send={send} />
      <Ask
        className={clsx(askCss.ask, asksCss.lookUp)}
        initial={draft}
        changed={setDraft}
        send={(given) => send("look up", { ...given })}
        error={problem && new Refusal(problem)}
        pending={busy}
        submit="Write it down"
      >
        <Field name="written" label="As the manual writes it">
          {step.options.length > 0 ? (
            <Choice options={step.options.map(({ code }) => code)} />
          ) : (
            <Input className={controlsCss.amountInput} />
          )}
        </Field>
        <Field name="document" label="Document">
          <Input />
        </Field>
        <Field name="page" label="Page">
          <Input />
        </Field>
      </Ask>
    </>
  );
}
