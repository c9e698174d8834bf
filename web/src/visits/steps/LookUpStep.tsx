import { Button, Input } from "antd";
import { useState } from "react";
import { fieldSentence } from "../../api/client";
import { FieldAnswer } from "../../workshop/FieldAnswer";
import { Refused } from "../../workshop/Refused";
import { useDraft } from "../outbox";
import type { StepProps } from "../StepFocus";

/** A value the sheet does not give: what the manual says, and where it says so. */
export function LookUpStep({ sheet, step, problem, busy, send }: StepProps) {
  const [written, setWritten] = useDraft(`${sheet.id}.${step.id}`, "");
  const [document, setDocument] = useState("");
  const [page, setPage] = useState("");
  const write = (said: string) => send("look up", { written: said, document, page });
  return (
    <form
      className="look-up"
      onSubmit={(event) => {
        event.preventDefault();
        write(written);
      }}
    >
      <label htmlFor="look-up">As the manual writes it</label>
      {step.options.length > 0 ? (
        <select
          id="look-up"
          className="plain-select"
          value={written}
          onChange={(event) => setWritten(event.target.value)}
        >
          <option value="">choose</option>
          {step.options.map((option) => (
            <option key={option}>{option}</option>
          ))}
        </select>
      ) : (
        <Input
          id="look-up"
          className="amount-input"
          autoComplete="off"
          value={written}
          onChange={(event) => setWritten(event.target.value)}
        />
      )}
      <FieldAnswer
        problem={problem}
        field="written"
        answer={(said) => {
          setWritten(said);
          write(said);
        }}
      />
      <label htmlFor="look-up-document">Document</label>
      <Input
        id="look-up-document"
        value={document}
        onChange={(event) => setDocument(event.target.value)}
      />
      <Refused said={fieldSentence(problem, "document")} />
      <label htmlFor="look-up-page">Page</label>
      <Input id="look-up-page" value={page} onChange={(event) => setPage(event.target.value)} />
      <Button type="primary" className="big-action" htmlType="submit" disabled={busy}>
        Write it down
      </Button>
    </form>
  );
}
