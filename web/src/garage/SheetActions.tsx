import { Button } from "antd";
import { useState } from "react";
import { useNavigate } from "react-router";
import { api, gone } from "../api/client";
import { useSession } from "../api/hooks";
import { Refused } from "../ui/Refused";
import { CopyFrom } from "./CopyFrom";
import { Naming } from "./Naming";
import { PasteTable } from "./PasteTable";
import { ask, useSheetChange, type Page } from "./sheets";
import sheetsCss from "./sheets.module.css";
import textCss from "../ui/text.module.css";

function Approval({ page }: { page: Page }) {
  const go = useNavigate();
  const change = useSheetChange(page.id);
  const [said, setSaid] = useState("");
  const [naming, setNaming] = useState(false);
  if (!page.may_approve) return null;
  const discard = () =>
    gone(api.DELETE("/api/sheets/{sheet_id}/", { params: { path: { sheet_id: page.id } } }))
      .then(() => go("/sheets"))
      .catch((error: Error) => setSaid(error.message));
  return (
    <>
      <Button
        type="primary"
        disabled={page.not_approvable !== "" || change.isPending}
        onClick={() =>
          page.unchecked_numbers.length > 0
            ? setNaming(true)
            : change.mutate(ask.approve(page.id, []))
        }
      >
        Approve version {page.version}
      </Button>
      {page.not_approvable && <p className={textCss.soft}>{page.not_approvable}</p>}
      <Refused said={said || change.error?.message} />
      <Button type="text" danger onClick={() => void discard()}>
        Discard this draft
      </Button>
      {naming && <Naming page={page} change={change} close={() => setNaming(false)} />}
    </>
  );
}

function ToDraft({ page }: { page: Page }) {
  const go = useNavigate();
  const change = useSheetChange(page.id);
  const session = useSession();
  const draft = page.model.sheets.find((sheet) => sheet.state === "draft");
  if (!session.data?.may_work) return null;
  return (
    <>
      <Button
        onClick={() =>
          change.mutate(ask.draft(page.model.id), {
            onSuccess: (made) => void go(`/sheets/${made.id}`),
          })
        }
      >
        {draft ? `Go to draft ${draft.version}` : "Change it in a draft"}
      </Button>
      <Refused said={change.error?.message} />
    </>
  );
}

/** What can be done with a sheet as a whole. */
export function SheetActions({ page }: { page: Page }) {
  const [tool, setTool] = useState<"paste" | "copy" | null>(null);
  return (
    <div className={sheetsCss.sheetActions}>
      <Approval page={page} />
      {page.may_edit && (
        <>
          <Button onClick={() => setTool("paste")}>Paste a table</Button>
          <Button onClick={() => setTool("copy")}>Copy from another sheet</Button>
        </>
      )}
      {page.state === "approved" && <ToDraft page={page} />}
      <a
        className={textCss.tallLink}
        href={`/api/sheets/${page.id}/document/`}
        download={`${page.model.name}.json`}
      >
        Export as JSON
      </a>
      <a
        className={textCss.tallLink}
        href={`/api/sheets/${page.id}/fasteners.csv`}
        download={`${page.model.name}.csv`}
      >
        Fasteners as CSV
      </a>
      {tool === "paste" && <PasteTable page={page} close={() => setTool(null)} />}
      {tool === "copy" && <CopyFrom page={page} close={() => setTool(null)} />}
    </div>
  );
}
