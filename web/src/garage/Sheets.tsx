import "./sheets.css";
import { Button, Input } from "antd";
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { api, fieldSentence, Refusal, type Problem, type Shape } from "../api/client";
import { useSession } from "../api/hooks";
import { Refused } from "../workshop/Refused";
import { Waiting, WentWrong } from "../workshop/States";
import { ask, gone, useModels, useSheetChange } from "./sheets";
import { Dialog } from "../workshop/Dialog";

type Model = Shape["ModelLine"];

function NewModel({ layouts, close }: { layouts: string[]; close: () => void }) {
  const go = useNavigate();
  const change = useSheetChange(0);
  const [form, setForm] = useState({ make: "", name: "", year: "", layout: "", cc: "" });
  const problem = change.error instanceof Refusal ? change.error.problem : null;
  const set = (field: string) => (event: { target: { value: string } }) =>
    setForm({ ...form, [field]: event.target.value });
  const text = (field: "make" | "name" | "year" | "cc", label: string, at: string) => (
    <label>
      {label}
      <Input value={form[field]} onChange={set(field)} />
      <Refused said={fieldSentence(problem, at)} />
    </label>
  );
  return (
    <Dialog open title="A new model" onCancel={close} footer={null} width={560}>
      <form
        className="start"
        onSubmit={(event) => {
          event.preventDefault();
          const { make, name, layout } = form;
          const { year, cc: displacement_cc } = form;
          change.mutate(ask.create({ make, name, layout, year, displacement_cc }), {
            onSuccess: (page) => void go(`/sheets/${page.id}`),
          });
        }}
      >
        {text("make", "Make", "make")}
        {text("name", "Model", "name")}
        {text("year", "Year", "year")}
        {text("cc", "Displacement, cm³", "displacement_cc")}
        <label>
          Layout
          <select className="plain-select" value={form.layout} onChange={set("layout")}>
            <option value="">choose</option>
            {layouts.map((layout) => (
              <option key={layout}>{layout}</option>
            ))}
          </select>
          <Refused said={fieldSentence(problem, "layout")} />
        </label>
        <Button type="primary" htmlType="submit" disabled={change.isPending}>
          Start its sheet
        </Button>
      </form>
    </Dialog>
  );
}

function Faults({ problem, close }: { problem: Problem; close: () => void }) {
  return (
    <Dialog open title={problem.detail} onCancel={close} footer={null} width={720}>
      <ul className="paste-lines">
        {problem.errors.map((error, index) => (
          <li key={index}>
            <code>{error.pointer}</code> <span className="refusal">{error.detail}</span>
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
  const problem = change.error instanceof Refusal ? change.error.problem : null;
  async function read(file: File | undefined) {
    if (!file) return;
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
      <label className="file-button">
        Import a sheet
        <input
          type="file"
          accept=".json,application/json"
          onChange={(event) => {
            void read(event.target.files?.[0]);
            event.target.value = "";
          }}
        />
      </label>
      <Refused said={said} />
      {problem && <Faults problem={problem} close={() => change.reset()} />}
    </>
  );
}

function ModelRow({ model, lead }: { model: Model; lead: boolean }) {
  const client = useQueryClient();
  const [said, setSaid] = useState("");
  const newest = model.sheets[0];
  const draft = newest?.state === "draft" ? newest : null;
  const approved = model.sheets.find((sheet) => sheet.state === "approved");
  const remove = () =>
    gone(api.DELETE("/api/models/{model_id}/", { params: { path: { model_id: model.id } } }))
      .then(() => client.invalidateQueries({ queryKey: ["models"] }))
      .catch((error: Error) => setSaid(error.message));
  return (
    <tr>
      <th scope="row">
        {model.make} {model.name}
        <span className="soft model-about">
          {model.year} · {model.layout} · {model.displacement_cc} cm³
        </span>
      </th>
      <td className="tabular">{model.bikes}</td>
      <td>
        {approved ? (
          <Link to={`/sheets/${approved.id}`}>
            version {approved.version}, approved by {approved.approved_by}
          </Link>
        ) : (
          <b className="unchecked">nothing approved</b>
        )}
      </td>
      <td>
        {draft && (
          <Link to={`/sheets/${draft.id}`}>
            draft {draft.version}, begun by {draft.entered_by}
          </Link>
        )}
      </td>
      <td>
        {lead && model.bikes === 0 && (
          <Button size="small" onClick={() => void remove()}>
            Take {model.name} out
          </Button>
        )}
        <Refused said={said} />
      </td>
    </tr>
  );
}

/** Every model with its sheets. */
export function Sheets({ mayWork }: { mayWork: boolean }) {
  const models = useModels();
  const session = useSession();
  const [adding, setAdding] = useState(false);
  if (models.isPending) return <Waiting what="Fetching the binders" />;
  if (models.isError) return <WentWrong error={models.error} again={() => void models.refetch()} />;
  const lead = session.data?.role === "lead";
  return (
    <>
      <div className="heading">
        <h1>Spec sheets</h1>
        <p className="heading-sum">Models: {models.data.models.length}</p>
        {mayWork && (
          <span className="heading-tools">
            <TakeIn />
            <Button type="primary" onClick={() => setAdding(true)}>
              New model
            </Button>
          </span>
        )}
      </div>
      <table className="spec models">
        <thead>
          <tr>
            <th scope="col">Model</th>
            <th scope="col">Bikes</th>
            <th scope="col">Counts now</th>
            <th scope="col">In work</th>
            <th scope="col">
              <span className="hidden">What to do</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {models.data.models.map((model) => (
            <ModelRow key={model.id} model={model} lead={lead} />
          ))}
        </tbody>
      </table>
      {adding && <NewModel layouts={models.data.layouts} close={() => setAdding(false)} />}
    </>
  );
}
