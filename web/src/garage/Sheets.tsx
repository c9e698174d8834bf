import { clsx } from "clsx";
import { Button, Input, Table, Upload, type TableColumnsType } from "antd";
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { api, problemOf, type Problem, type Shape, gone } from "../api/client";
import { keys } from "../api/keys";
import { useSession } from "../api/hooks";
import { Ask, Field } from "../ui/Ask";
import { Choice } from "../ui/Choice";
import { Refused } from "../ui/Refused";
import { Waiting, WentWrong } from "../ui/States";
import { ask, useModels, useSheetChange } from "./sheets";
import { Dialog } from "../ui/Dialog";
import listsCss from "../ui/lists.module.css";
import pageCss from "../ui/page.module.css";
import sheetsCss from "./sheets.module.css";
import textCss from "../ui/text.module.css";

type Model = Shape["ModelLine"];

const EMPTY = { make: "", name: "", year: "", layout: "", displacement_cc: "" };

function NewModel({ layouts, close }: { layouts: string[]; close: () => void }) {
  const go = useNavigate();
  const change = useSheetChange(0);
  return (
    <Dialog open title="A new model" onCancel={close} footer={null} width={560}>
      <Ask
        initial={EMPTY}
        send={(given) =>
          change.mutate(ask.create(given), {
            onSuccess: (page) => void go(`/sheets/${page.id}`),
          })
        }
        error={change.error}
        pending={change.isPending}
        submit="Start its sheet"
      >
        <Field name="make" label="Make">
          <Input />
        </Field>
        <Field name="name" label="Model">
          <Input />
        </Field>
        <Field name="year" label="Year">
          <Input inputMode="numeric" placeholder="2018" />
        </Field>
        <Field name="displacement_cc" label="Displacement, cm³">
          <Input placeholder="890" />
        </Field>
        <Field name="layout" label="Layout">
          <Choice options={layouts} />
        </Field>
      </Ask>
    </Dialog>
  );
}

function Faults({ problem, close }: { problem: Problem; close: () => void }) {
  return (
    <Dialog open title={problem.detail} onCancel={close} footer={null} width={720}>
      <ul className={sheetsCss.pasteLines}>
        {problem.errors.map((error, index) => (
          <li key={index}>
            <code>{error.pointer}</code> <span className={textCss.refusal}>{error.detail}</span>
          </li>
        ))}
      </ul>
    </Dialog>
  );
}

/** Takes a sheet document in; what is wrong with it is said place by place. */
function TakeIn() {
  const go = useNavigate();
  const change = useSheetChange(0);
  const [said, setSaid] = useState("");
  const problem = problemOf(change.error);
  async function read(file: File) {
    setSaid("");
    try {
      const document = JSON.parse(await file.text()) as Record<string, unknown>;
      change.mutate(ask.take(document), {
        onSuccess: (page) => void go(`/sheets/${page.id}`),
      });
    } catch {
      setSaid(`${file.name} is no JSON document.`);
    }
  }
  return (
    <>
      <Upload
        accept=".json,application/json"
        showUploadList={false}
        beforeUpload={(file) => {
          void read(file);
          return false;
        }}
      >
        <Button>Import a sheet</Button>
      </Upload>
      <Refused said={said} />
      {problem && <Faults problem={problem} close={() => change.reset()} />}
    </>
  );
}

/** The version that counts now, and the draft in work. */
function Versions({ model }: { model: Model }) {
  const newest = model.sheets[0];
  const draft = newest?.state === "draft" ? newest : null;
  const approved = model.sheets.find((sheet) => sheet.state === "approved");
  return (
    <div className={listsCss.versions}>
      {approved ? (
        <Link to={`/sheets/${approved.id}`}>
          version {approved.version}, approved by {approved.approved_by}
        </Link>
      ) : (
        <b className={textCss.unchecked}>nothing approved</b>
      )}
      {draft && (
        <Link to={`/sheets/${draft.id}`}>
          draft {draft.version}, begun by {draft.entered_by}
        </Link>
      )}
    </div>
  );
}

function TakeOut({ model }: { model: Model }) {
  const client = useQueryClient();
  const [said, setSaid] = useState("");
  const remove = () =>
    gone(api.DELETE("/api/models/{model_id}/", { params: { path: { model_id: model.id } } }))
      .then(() => client.invalidateQueries({ queryKey: keys.models }))
      .catch((error: Error) => setSaid(error.message));
  return (
    <>
      <Button type="text" onClick={() => void remove()}>
        Take {model.name} out
      </Button>
      <Refused said={said} />
    </>
  );
}

function columns(lead: boolean): TableColumnsType<Model> {
  const last: TableColumnsType<Model> = lead
    ? [
        {
          title: <span className={textCss.hidden}>What to do</span>,
          render: (_, model) => model.bikes === 0 && <TakeOut model={model} />,
        },
      ]
    : [];
  return [
    {
      title: "Model",
      rowScope: "row",
      render: (_, model) => (
        <>
          <b>
            {model.make} {model.name}
          </b>
          <span className={clsx(textCss.soft, pageCss.modelAbout)}>
            {model.year} · {model.layout} · {model.displacement_cc} cm³
          </span>
        </>
      ),
    },
    { title: "Bikes", dataIndex: "bikes", className: textCss.tabular },
    { title: "Sheets", render: (_, model) => <Versions model={model} /> },
    ...last,
  ];
}

/** Every model with its sheets. */
export function Sheets({ mayWork }: { mayWork: boolean }) {
  const models = useModels();
  const session = useSession();
  const [adding, setAdding] = useState(false);
  if (models.isPending) return <Waiting what="Fetching the binders" />;
  if (models.isError) return <WentWrong error={models.error} again={() => void models.refetch()} />;
  return (
    <>
      <div className={pageCss.heading}>
        <h1>Spec sheets</h1>
        <p className={pageCss.headingSum}>Models: {models.data.models.length}</p>
        {mayWork && (
          <span className={pageCss.headingTools}>
            <TakeIn />
            <Button type="primary" onClick={() => setAdding(true)}>
              New model
            </Button>
          </span>
        )}
      </div>
      <Table<Model>
        className={listsCss.lists}
        columns={columns(session.data?.rights.includes("lead") ?? false)}
        dataSource={models.data.models}
        rowKey="id"
        pagination={models.data.models.length > 50 ? { pageSize: 50 } : false}
      />
      {adding && <NewModel layouts={models.data.layouts} close={() => setAdding(false)} />}
    </>
  );
}
