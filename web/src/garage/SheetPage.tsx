import { useIsMutating } from "@tanstack/react-query";
import { ConfigProvider, Input } from "antd";
import { useState } from "react";
import { Link, useParams } from "react-router";
import { useSession } from "../api/hooks";
import { Doors } from "../workshop/Doors";
import { NotThere, Waiting } from "../ui/States";
import { useMedia } from "../ui/useMedia";
import { Adder } from "./Adder";
import { standOnFirst, type Source } from "./cells";
import { Doubts } from "./Doubts";
import { MapEditor } from "./MapEditor";
import { Missing } from "./Missing";
import { Offers } from "./Offers";
import { ReadSheet } from "./ReadSheet";
import { ReservoirSheet } from "./ReservoirSheet";
import { SheetActions } from "./SheetActions";
import { ask, useSheet, useSheetChange, type Page } from "./sheets";
import listsCss from "../ui/lists.module.css";
import pageCss from "../ui/page.module.css";
import sheetsCss from "./sheets.module.css";
import textCss from "../ui/text.module.css";

type Block = Page["reservoirs"][number];

const MAP = "map";

function Sources({ source, change }: { source: Source; change: (source: Source) => void }) {
  return (
    <div className={sheetsCss.sources}>
      <label htmlFor="document">Typing from</label>
      <Input
        id="document"
        value={source.document}
        placeholder="workshop manual, label on the case …"
        onChange={(event) => change({ ...source, document: event.target.value })}
      />
      <label htmlFor="page">page</label>
      <Input
        id="page"
        value={source.page}
        accessKey="p"
        onChange={(event) => change({ ...source, page: event.target.value })}
      />
      <span className={textCss.soft}>
        Enter writes a value down and goes on. Alt+Shift+P: page.
      </span>
    </div>
  );
}

function Changed({ page }: { page: Page }) {
  if (page.compared_with === 0) return null;
  return (
    <section>
      <h3>Changed since version {page.compared_with}</h3>
      {page.changes.length === 0 && <p className={textCss.soft}>Nothing yet.</p>}
      <ul>
        {page.changes.map((change) => (
          <li key={change}>{change}</li>
        ))}
      </ul>
    </section>
  );
}

function Written() {
  const writing = useIsMutating();
  return (
    <span role="status">
      {" "}
      · {writing > 0 ? `writing down ${writing} …` : "what was typed is kept"}
    </span>
  );
}

function Heading({ page }: { page: Page }) {
  const state = page.state === "draft" ? "draft" : `approved by ${page.approved_by}`;
  return (
    <div className={pageCss.heading}>
      <Link to="/sheets" className={pageCss.back}>
        Spec sheets
      </Link>
      <h1>
        {page.model.make} {page.model.name}
      </h1>
      <p className={pageCss.headingSum}>
        {page.model.year} · {page.model.layout} · {page.model.displacement_cc} cm³ ·{" "}
        <b>
          version {page.version}, {state}
        </b>{" "}
        · {page.unchecked} numbers not checked
        {page.may_edit && <Written />}
      </p>
    </div>
  );
}

/** Adding a reservoir of any kind, beyond those that are offered. */
function AddAny({ page, show }: { page: Page; show: (reservoir: string) => void }) {
  const change = useSheetChange(page.id);
  if (!page.may_edit) return null;
  const known = new Set(page.reservoirs.map((one) => one.key));
  return (
    <Adder
      label="Add a reservoir"
      options={page.kinds}
      add={(kind) =>
        change.mutate(ask.add(page.id, kind, ""), {
          onSuccess: (next) => {
            const made = next.reservoirs.find((one) => !known.has(one.key));
            if (!made) return;
            show(made.key);
            standOnFirst(`${made.key}//`);
          },
        })
      }
    />
  );
}

/** The map, or one reservoir: to be typed in while it is a draft, and to be read from then on. */
function Shown({
  page,
  shown,
  me,
}: {
  page: Page;
  shown: Block | typeof MAP | undefined;
  me: string;
}) {
  const [source, setSource] = useState<Source>({ document: "", page: "" });
  if (shown === MAP) return <MapEditor page={page} />;
  if (!page.may_edit) return shown ? <ReadSheet block={shown} /> : null;
  return (
    <>
      <Sources source={source} change={setSource} />
      {shown && (
        <ReservoirSheet key={shown.key} page={page} block={shown} source={source} me={me} />
      )}
    </>
  );
}

function Opened({ page, me }: { page: Page; me: string }) {
  const [chosen, setChosen] = useState("");
  const block = page.reservoirs.find((one) => one.key === chosen) ?? page.reservoirs[0];
  const map = chosen === MAP;
  const tabs = page.reservoirs.map((one) => ({ key: one.key, label: one.label }));
  return (
    <>
      <Heading page={page} />
      <div className={sheetsCss.sheet}>
        <div>
          <Doors
            className={listsCss.sheetTabs}
            doors={[...tabs, { key: MAP, label: "Bike map" }]}
            open={map ? MAP : (block?.key ?? "")}
            go={setChosen}
          />
          <Offers page={page} show={setChosen} />
          <Shown page={page} shown={map ? MAP : block} me={me} />
          <AddAny page={page} show={setChosen} />
        </div>
        <aside className={sheetsCss.beside} aria-label="About this sheet">
          <SheetActions page={page} />
          <Doubts page={page} show={setChosen} />
          <Missing page={page} show={setChosen} />
          <Changed page={page} />
        </aside>
      </div>
    </>
  );
}

/** Are these numbers right? One version of a model's sheet, value by value. */
export function SheetPage() {
  const id = Number(useParams().id);
  const sheet = useSheet(id);
  const session = useSession();
  const touch = useMedia("(pointer: coarse)");
  if (sheet.isPending) return <Waiting what="Opening the sheet" />;
  if (sheet.isError && !sheet.data) {
    return <NotThere error={sheet.error} again={() => void sheet.refetch()} />;
  }
  return (
    // what is typed is dense for a keyboard, all else wide for a finger
    <ConfigProvider componentSize={sheet.data.may_edit && !touch ? "small" : "middle"}>
      <Opened key={id} page={sheet.data} me={session.data?.id ?? ""} />
    </ConfigProvider>
  );
}
