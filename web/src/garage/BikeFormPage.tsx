import { clsx } from "clsx";
import { Checkbox, Input } from "antd";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { api, taken, type Shape } from "../api/client";
import { keys } from "../api/keys";
import { Ask, Field } from "../ui/Ask";
import { Choice } from "../ui/Choice";
import { Day } from "../ui/Day";
import { NotThere, Waiting } from "../ui/States";
import { RECORDS } from "./words";
import askCss from "../ui/ask.module.css";
import pageCss from "../ui/page.module.css";

type Form = Shape["BikeForm"];
type Page = Shape["BikeFormPage"];

function useForm(id: string) {
  return useQuery({
    queryKey: keys.bikeForm(id),
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
      void client.invalidateQueries({ queryKey: keys.wards });
      void client.invalidateQueries({ queryKey: keys.bike(page.form.id) });
    },
    // somebody else may have changed it meanwhile: what stands now is shown where nothing was typed
    onError: () => void client.invalidateQueries({ queryKey: keys.bikeForm(id) }),
  });
}

/** What is known of the machine: which one it is, and whose engine is in it. */
function Machine({ form }: { form: Form }) {
  const [swapped, setSwapped] = useState(form.engine_at !== "");
  return (
    <fieldset className={askCss.askGroup}>
      <legend>The machine</legend>
      <Field name="plate" label="Plate">
        <Input />
      </Field>
      <Field name="frame_number" label="Frame number">
        <Input />
      </Field>
      <Field name="year_built" label="Year built">
        <Input inputMode="numeric" placeholder="2019" />
      </Field>
      <Field name="engine_number" label="Engine number">
        <Input />
      </Field>
      <Checkbox
        className={askCss.askTick}
        checked={swapped}
        disabled={form.engine_at !== ""}
        onChange={(event) => setSwapped(event.target.checked)}
      >
        It is not its first engine
      </Checkbox>
      {swapped && (
        <>
          <Field name="engine_at" label="Odometer when it was fitted">
            <Input placeholder="31 000" />
          </Field>
          <Field name="engine_had" label="What that engine had run">
            <Input placeholder="0, or 12 400 km" />
          </Field>
        </>
      )}
    </fieldset>
  );
}

function Use({ page, form, isNew }: { page: Page; form: Form; isNew: boolean }) {
  return (
    <fieldset className={askCss.askGroup}>
      <legend>Use and history</legend>
      <Field name="use_class" label="Used for">
        <Choice options={page.use_classes} />
      </Field>
      <Field name="odometer_unit" label="Odometer counts">
        <Choice options={["km", "mi"]} />
      </Field>
      {isNew && (
        <Field name="odometer" label="Odometer shows">
          <Input placeholder="12 400" />
        </Field>
      )}
      <Field name="records" label="History">
        <Choice
          options={page.records.map((value) => ({ value, label: RECORDS[value] ?? value }))}
        />
      </Field>
      {form.records === "from new" && (
        <Field name="new_on" label="New on">
          <Day />
        </Field>
      )}
      <Field name="severity" label="Hard use shortens intervals to">
        <Input placeholder="1 as the book … 0.5" />
      </Field>
      <Field name="counts_hours" label="" tick>
        <Checkbox>It has an hour meter</Checkbox>
      </Field>
      {isNew && form.counts_hours && (
        <Field name="hours" label="Hours show">
          <Input placeholder="169" />
        </Field>
      )}
    </fieldset>
  );
}

function Filled({ page, id }: { page: Page; id: string }) {
  const go = useNavigate();
  const [made] = useState(() => id || crypto.randomUUID());
  const start: Form = { ...page.form, id: made };
  const [form, setForm] = useState(start);
  const save = useSave(id);
  return (
    <Ask
      className={clsx(askCss.ask, askCss.bikeForm)}
      initial={{ ...start, model: start.model ? String(start.model) : "" }}
      send={(given) =>
        save.mutate(
          { ...given, model: Number(given.model) },
          { onSuccess: (saved) => void go(`/bikes/${saved.form.id}`) },
        )
      }
      changed={(given) => setForm({ ...start, ...given, model: Number(given.model) })}
      error={save.error}
      pending={save.isPending}
      submit={id ? "Save the bike" : "Enter the bike"}
    >
      <fieldset className={askCss.askGroup}>
        <legend>Whose bike is it?</legend>
        <Field name="name" label="Called">
          <Input />
        </Field>
        <Field
          name="model"
          label="Model"
          below={
            <>
              Not there? Start its sheet under <Link to="/sheets">Spec sheets</Link>.
            </>
          }
        >
          <Choice options={page.models.map(({ id, name }) => ({ value: `${id}`, label: name }))} />
        </Field>
        <Field name="owner" label="Owner (a word you know them by is enough)">
          <Input />
        </Field>
        <Field name="notes" label="Notes" className={askCss.askWide}>
          <Input.TextArea autoSize={{ minRows: 2, maxRows: 8 }} />
        </Field>
        {id && (
          <Field name="archived" label="" tick>
            <Checkbox>Archived: off the ward, history kept</Checkbox>
          </Field>
        )}
      </fieldset>
      <Use page={page} form={form} isNew={!id} />
      <Machine form={start} />
    </Ask>
  );
}

/** Entering a bike, or changing one. */
export function BikeFormPage() {
  const { id = "" } = useParams();
  const page = useForm(id);
  if (page.isPending) return <Waiting what="Fetching the card" />;
  if (page.isError) return <NotThere error={page.error} again={() => void page.refetch()} />;
  return (
    <>
      <div className={pageCss.heading}>
        <Link to={id ? `/bikes/${id}` : "/"} className={pageCss.back}>
          {id ? page.data.form.name : "Ward"}
        </Link>
        <h1>{id ? "The bike's card" : "A bike comes in"}</h1>
      </div>
      <Filled key={id} page={page.data} id={id} />
    </>
  );
}
