import "./sheets.css";
import { useIsMutating } from "@tanstack/react-query";
import { Button } from "antd";
import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { Refusal, api } from "../api/client";

import { useSession } from "../api/hooks";
import { BikeMap, type Placed } from "../glass/BikeMap";
import { Refused } from "../workshop/Refused";
import { NotHere, Waiting, WentWrong } from "../workshop/States";
import { standOnFirst, type Source } from "./CellRow";
import { CopyFrom } from "./CopyFrom";
import { Doubts } from "./Doubts";
import { Naming } from "./Naming";
import { PasteTable } from "./PasteTable";
import { Adder, ReservoirSheet } from "./ReservoirSheet";
import { ask, gone, useSheet, useSheetChange, type Page } from "./sheets";

const MAP = "map";

function placed(page: Page): Placed[] {
  return page.reservoirs.flatMap((block) =>
    block.parts.flatMap((part) =>
      part.x !== null && part.y !== null
        ? [
            {
              id: `${block.key}/${part.key}/spot`,
              label: `${block.label}, ${part.key}`,
              role: part.role,
              x: part.x,
              y: part.y,
            },
          ]
        : [],
    ),
  );
}

/** The bike map of a sheet: drag a plug to its place, or use the arrow keys. */
function MapEditor({ page }: { page: Page }) {
  const change = useSheetChange(page.id);
  const parts = page.reservoirs.flatMap((block) =>
    block.parts.map((part) => ({ ...part, block, id: `${block.key}/${part.key}/spot` })),
  );
  const move = (id: string, x: number, y: number) => {
    const part = parts.find((one) => one.id === id);
    if (!part) return;
    const written = `${x.toFixed(2)} ${y.toFixed(2)}`;
    change.mutate(ask.write(page.id, [{ path: id, written, revision: part.revision }]));
  };
  const loose = parts.filter((part) => part.x === null);
  return (
    <section className="res" aria-label="Bike map">
      <p className="soft">
        {page.may_edit
          ? "Drag each plug to its place, or choose it with Tab and move it with the arrow keys."
          : "Where each plug is."}
      </p>
      <BikeMap
        layout={page.model.layout}
        plugs={placed(page)}
        move={page.may_edit ? move : undefined}
      />
      <Refused said={change.error?.message} />
      {page.may_edit && loose.length > 0 && (
        <p className="loose">
          Not placed yet:{" "}
          {loose.map((part) => (
            <button key={part.id} onClick={() => move(part.id, 0.5, 0.5)}>
              {part.block.label}, {part.key}
            </button>
          ))}
        </p>
      )}
    </section>
  );
}

function Sources({ source, change }: { source: Source; change: (source: Source) => void }) {
  return (
    <div className="sources">
      <label htmlFor="document">Typing from</label>
      <input
        id="document"
        value={source.document}
        placeholder="workshop manual, label on the case …"
        onChange={(event) => change({ ...source, document: event.target.value })}
      />
      <label htmlFor="page">page</label>
      <input
        id="page"
        value={source.page}
        accessKey="p"
        onChange={(event) => change({ ...source, page: event.target.value })}
      />
      <span className="soft">Enter writes a value down and goes on. Alt+Shift+P: page.</span>
    </div>
  );
}

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
      {page.not_approvable && <p className="soft">{page.not_approvable}</p>}
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

function Actions({ page }: { page: Page }) {
  const [tool, setTool] = useState<"paste" | "copy" | null>(null);
  return (
    <div className="sheet-actions">
      <Approval page={page} />
      {page.may_edit && (
        <>
          <Button onClick={() => setTool("paste")}>Paste a table</Button>
          <Button onClick={() => setTool("copy")}>Copy from another sheet</Button>
        </>
      )}
      {page.state === "approved" && <ToDraft page={page} />}
      <a href={`/api/sheets/${page.id}/document/`} download={`${page.model.name}.json`}>
        Export as JSON
      </a>
      <a href={`/api/sheets/${page.id}/fasteners.csv`} download={`${page.model.name}.csv`}>
        Fasteners as CSV
      </a>
      {tool === "paste" && <PasteTable page={page} close={() => setTool(null)} />}
      {tool === "copy" && <CopyFrom page={page} close={() => setTool(null)} />}
    </div>
  );
}

function Beside({ page, show }: { page: Page; show: (reservoir: string) => void }) {
  return (
    <aside className="beside" aria-label="About this sheet">
      <Actions page={page} />
      <Doubts page={page} show={show} />
      {page.missing.length > 0 && (
        <section>
          <h3>Missing: the run sheet will ask</h3>
          <ul>
            {page.missing.map((what) => (
              <li key={what}>{what}</li>
            ))}
          </ul>
        </section>
      )}
      {page.compared_with > 0 && (
        <section>
          <h3>Changed since version {page.compared_with}</h3>
          {page.changes.length === 0 && <p className="soft">Nothing yet.</p>}
          <ul>
            {page.changes.map((change) => (
              <li key={change}>{change}</li>
            ))}
          </ul>
        </section>
      )}
    </aside>
  );
}

function Written() {
  const writing = useIsMutating();
  return (
    <span role="status"> · {writing > 0 ? `writing down ${writing} …` : "all written down"}</span>
  );
}

function Opened({ page, me }: { page: Page; me: string }) {
  const [chosen, setChosen] = useState("");
  const [source, setSource] = useState<Source>({ document: "", page: "" });
  const change = useSheetChange(page.id);
  const block = page.reservoirs.find((one) => one.key === chosen) ?? page.reservoirs[0];
  const state = page.state === "draft" ? "draft" : `approved by ${page.approved_by}`;
  return (
    <>
      <div className="heading">
        <Link to="/sheets" className="back">
          Spec sheets
        </Link>
        <h1>
          {page.model.make} {page.model.name}
        </h1>
        <p className="heading-sum">
          {page.model.year} · {page.model.layout} · {page.model.displacement_cc} cm³ ·{" "}
          <b>
            version {page.version}, {state}
          </b>{" "}
          · {page.unchecked} numbers not checked
          {page.may_edit && <Written />}
        </p>
      </div>
      <div className="sheet">
        <div>
          <nav className="sheet-nav" aria-label="Reservoirs of the sheet">
            {page.reservoirs.map((one) => (
              <button
                key={one.key}
                aria-pressed={chosen !== MAP && one === block}
                onClick={() => setChosen(one.key)}
              >
                {one.label}
              </button>
            ))}
            <button aria-pressed={chosen === MAP} onClick={() => setChosen(MAP)}>
              Bike map
            </button>
            {page.may_edit && (
              <Adder
                label="Add a reservoir"
                options={page.kinds}
                add={(kind) =>
                  change.mutate(ask.add(page.id, kind, ""), {
                    onSuccess: (next) => {
                      const known = new Set(page.reservoirs.map((one) => one.key));
                      const made = next.reservoirs.find((one) => !known.has(one.key));
                      if (!made) return;
                      setChosen(made.key);
                      standOnFirst(`${made.key}//`);
                    },
                  })
                }
              />
            )}
          </nav>
          {page.may_edit && chosen !== MAP && <Sources source={source} change={setSource} />}
          {chosen === MAP && <MapEditor page={page} />}
          {chosen !== MAP && block && (
            <ReservoirSheet key={block.key} page={page} block={block} source={source} me={me} />
          )}
          {!block && <p className="state">Nothing on this sheet yet. Add the first reservoir.</p>}
        </div>
        <Beside page={page} show={setChosen} />
      </div>
    </>
  );
}

/** Are these numbers right? One version of a model's sheet, value by value. */
export function SheetPage() {
  const id = Number(useParams().id);
  const sheet = useSheet(id);
  const session = useSession();
  if (sheet.isPending) return <Waiting what="Opening the sheet" />;
  if (sheet.isError && !sheet.data) {
    if (sheet.error instanceof Refusal && sheet.error.problem.status === 404) return <NotHere />;
    return <WentWrong error={sheet.error} again={() => void sheet.refetch()} />;
  }
  return <Opened key={id} page={sheet.data} me={session.data?.name ?? ""} />;
}
