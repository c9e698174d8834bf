import { Button, Input } from "antd";
import { useState } from "react";
import { Refused } from "../ui/Refused";
import { ask, useSheetChange, type Page } from "./sheets";
import sheetsCss from "./sheets.module.css";
import textCss from "../ui/text.module.css";

type Line = Page["doubts"][number];

function Doubt({ page, doubt, show }: { page: Page; doubt: Line; show: () => void }) {
  const [reason, setReason] = useState("");
  const change = useSheetChange(page.id);
  if (doubt.answered_by) {
    return (
      <li className={sheetsCss.doubtAnswered}>
        {doubt.text}
        <span className={textCss.soft}>
          {doubt.answered_by}: “{doubt.reason}”
        </span>
      </li>
    );
  }
  return (
    <li>
      <button className={sheetsCss.doubtShow} onClick={show}>
        {doubt.reservoir}: {doubt.text}
      </button>
      {page.may_edit && (
        <form
          onSubmit={(event) => {
            event.preventDefault();
            const { rule, reservoir, text } = doubt;
            change.mutate(ask.answer(page.id, { rule, reservoir, text, reason }));
          }}
        >
          <Input
            aria-label={`The manual says so: ${doubt.text}`}
            placeholder="It says so because …"
            value={reason}
            onChange={(event) => setReason(event.target.value)}
          />
          <Button htmlType="submit">It really says so</Button>
          <Refused said={change.error?.message} />
        </form>
      )}
    </li>
  );
}

/** What to look at again before anybody approves. */
export function Doubts({ page, show }: { page: Page; show: (reservoir: string) => void }) {
  if (page.doubts.length === 0) return null;
  return (
    <section className={sheetsCss.sheetDoubts} aria-label="Look at these numbers again">
      <h3>Look at these numbers again</h3>
      <ul>
        {page.doubts.map((doubt) => (
          <Doubt
            key={doubt.reservoir + doubt.rule + doubt.text}
            page={page}
            doubt={doubt}
            show={() => show(doubt.reservoir)}
          />
        ))}
      </ul>
    </section>
  );
}
