import "./sheets.css";
import { Button, Checkbox, Input } from "antd";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { api, fieldSentence, Refusal, taken, type Shape } from "../api/client";
import { keys } from "../api/hooks";
import { FieldAnswer } from "../workshop/FieldAnswer";
import { Refused } from "../workshop/Refused";
import { NotHere, Waiting, WentWrong } from "../workshop/States";

type Form = Shape["BikeForm"];
type Page = Shape["BikeFormPage"];

const RECORDS: Record<string, string> = {
  "from new": "known from new",
  some: "some records",
  none: "no records: everything counts as due now",
};

function useForm(id: string) {
  return useQuery({
    queryKey: ["bike-form", id],
    queryFn: () =>
      id
        ? taken(api.GET("/api/bikes/{bike_id}/form/", { params: { path: { bike_id: id } } }))
        : taken(api.GET("/api/bikes/")),
    staleTime: Infinity,
    gcTime: 0,
  });
}

function useSave(id: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: Form) =>
      id
        ? taken(api.PUT("/api/bikes/{bike_id}/form/", { params: { path: { bike_id: id } }, body }))
        : taken(api.POST("/api/bikes/", { body })),
    onSuccess: (page) => {
      void client.invalidateQueries({ queryKey: ["ward"] });
      void client.invalidateQueries({ queryKey: keys.bike(page.form.id) });
    },
  });
}

/** What was refused as a whole, not at a field. */
function Elsewhere({ error }: { error: Error | null }) {
  const atField = error instanceof Refusal && error.problem.errors.some((one) => one.pointer);
  return atField ? null : <Refused said={error?.message} />;
}

function Filled({ page, id }: { page: Page; id: string }) {
  const go = useNavigate();
  const [form, setForm] = useState<Form>({ ...page.form, id: id || crypto.randomUUID() });
  const save = useSave(id);
  const problem = save.error instanceof Refusal ? save.error.problem : null;
  const set = <K extends keyof Form>(field: K, value: Form[K]) =>
    setForm({ ...form, [field]: value });
  const text = (
    field: "name" | "owner" | "new_on" | "severity" | "odometer" | "hours",
    label: string,
    hint = "",
  ) => (
    <label>
      {label}
      <Input
        value={form[field] ?? ""}
        placeholder={hint}
        onChange={(event) => set(field, event.target.value)}
      />
      <FieldAnswer problem={problem} field={field} answer={(said) => set(field, said)} />
    </label>
  );
  const choice = (
    field: "use_class" | "odometer_unit" | "records",
    label: string,
    options: string[],
    words: Record<string, string> = {},
  ) => (
    <label>
      {label}
      <select
        className="plain-select"
        value={form[field]}
        onChange={(event) => set(field, event.target.value)}
      >
        {options.map((option) => (
          <option key={option} value={option}>
            {words[option] ?? option}
          </option>
        ))}
      </select>
      <Refused said={fieldSentence(problem, field)} />
    </label>
  );
  return (
    <form
      className="bike-form"
      onSubmit={(event) => {
        event.preventDefault();
        save.mutate(form, { onSuccess: (saved) => void go(`/bikes/${saved.form.id}`) });
      }}
    >
      {text("name", "Called")}
      <label>
        Model
        <select
          className="plain-select"
          value={form.model}
          onChange={(event) => set("model", Number(event.target.value))}
        >
          <option value={0}>choose</option>
          {page.models.map((model) => (
            <option key={model.id} value={model.id}>
              {model.name}
            </option>
          ))}
        </select>
        <Refused said={fieldSentence(problem, "model")} />
        <span className="soft">
          Not there? Start its sheet under <Link to="/sheets">Spec sheets</Link>.
        </span>
      </label>
      {text("owner", "Owner (a word you know them by is enough)")}
      {choice("use_class", "Used for", page.use_classes)}
      {choice("odometer_unit", "Odometer counts", ["km", "mi"])}
      {!id && text("odometer", "Odometer shows", "12 400")}
      {choice("records", "History", page.records, RECORDS)}
      {form.records === "from new" && text("new_on", "New on", "2024-05-01")}
      {text("severity", "Hard use shortens intervals to", "1 as the book … 0.5")}
      <label className="bike-form-check">
        <Checkbox
          checked={form.counts_hours}
          onChange={(event) => set("counts_hours", event.target.checked)}
        >
          It has an hour meter
        </Checkbox>
      </label>
      {!id && form.counts_hours && text("hours", "Hours show", "169")}
      <label className="bike-form-notes">
        Notes
        <Input.TextArea
          rows={3}
          value={form.notes}
          onChange={(event) => set("notes", event.target.value)}
        />
      </label>
      {id && (
        <label className="bike-form-check">
          <Checkbox
            checked={form.archived}
            onChange={(event) => set("archived", event.target.checked)}
          >
            Archived: off the ward, history kept
          </Checkbox>
        </label>
      )}
      <Elsewhere error={save.error} />
      <Button type="primary" htmlType="submit" size="large" disabled={save.isPending}>
        {id ? "Save the bike" : "Enter the bike"}
      </Button>
    </form>
  );
}

/** Entering a bike, or changing one. */
export function BikeFormPage() {
  const { id = "" } = useParams();
  const page = useForm(id);
  if (page.isPending) return <Waiting what="Fetching the card" />;
  if (page.isError) {
    if (page.error instanceof Refusal && page.error.problem.status === 404) return <NotHere />;
    return <WentWrong error={page.error} again={() => void page.refetch()} />;
  }
  return (
    <>
      <div className="heading">
        <Link to={id ? `/bikes/${id}` : "/"} className="back">
          {id ? page.data.form.name : "Ward"}
        </Link>
        <h1>{id ? "The bike's card" : "A bike comes in"}</h1>
      </div>
      <Filled key={page.dataUpdatedAt} page={page.data} id={id} />
    </>
  );
}
