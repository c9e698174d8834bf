import { clsx } from "clsx";
import { Form, Input, InputNumber } from "antd";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { keep } from "../api/keep";
import { api, taken, type Shape } from "../api/client";
import { keys } from "../api/keys";
import { Ask, Field } from "../ui/Ask";
import { Choice } from "../ui/Choice";
import { useOwnPage } from "./people/useOwnPage";
import { OUNCES } from "../ui/units";
import askCss from "../ui/ask.module.css";

const ZONES = Intl.supportedValuesOf("timeZone");

type Settings = Shape["WorkshopSettings"];

const DAYS = ["Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday"].map(
  (label, index) => ({ value: String(index), label }),
);

function useSettings() {
  const client = useQueryClient();
  const settings = useQuery({
    queryKey: keys.settings,
    queryFn: () => taken(api.GET("/api/workshop/settings/")),
  });
  const save = useMutation({
    mutationFn: (body: Shape["WorkshopSettingsRequest"]) =>
      taken(api.PUT("/api/workshop/settings/", { body })),
    onSuccess: async (saved) => {
      await keep(client, keys.settings, saved);
      void client.invalidateQueries({ queryKey: keys.shelf });
      void client.invalidateQueries({ queryKey: keys.plans });
      void client.invalidateQueries({ queryKey: keys.calendar });
      void client.invalidateQueries({ queryKey: keys.session });
    },
    // somebody else may have set them meanwhile: what stands now is shown beside what is typed
    onError: () => void client.invalidateQueries({ queryKey: keys.settings }),
  });
  return { settings: settings.data, save };
}

function WeekDay({ id, value = 0, onChange, disabled }: DayProps) {
  return (
    <Choice
      id={id}
      options={DAYS}
      value={String(value)}
      onChange={(chosen) => onChange?.(Number(chosen))}
      disabled={disabled}
    />
  );
}

interface DayProps {
  id?: string;
  value?: number;
  onChange?: (day: number) => void;
  disabled: boolean;
}

function Filled({
  settings,
  save,
  lead,
}: { settings: Settings; lead: boolean } & Pick<ReturnType<typeof useSettings>, "save">) {
  const [form] = Form.useForm<Settings>();
  const own = useOwnPage();
  const money = { disabled: !lead, suffix: settings.currency };
  return (
    <Ask
      form={form}
      className={clsx(askCss.ask, askCss.prices)}
      initial={settings}
      send={(given) => save.mutate(given, { onSuccess: (saved) => form.setFieldsValue(saved) })}
      error={save.error}
      pending={save.isPending}
      submit={lead ? "Set" : null}
    >
      <Field name="name" label="The workshop's name">
        <Input disabled={!lead} maxLength={120} />
      </Field>
      <Field name="time_zone" label="Where the workshop stands, for its days">
        <Choice options={ZONES} disabled={!lead} />
      </Field>
      <Field name="week_begins" label="A week begins on">
        <WeekDay disabled={!lead} />
      </Field>
      <Field name="coldest_start" label="Coldest start expected, °C">
        <Input disabled={!lead} />
      </Field>
      <Field name="hour_price" label="An hour of work">
        <Input {...money} />
      </Field>
      <Field name="flat_price" label="Flat price of a visit">
        <Input {...money} />
      </Field>
      <Field name="currency" label="Currency, as you write it">
        <Input disabled={!lead} maxLength={5} placeholder="€" />
      </Field>
      <Field name="volume_unit" label="New people read volumes in">
        <Choice options={own?.volume_units ?? []} disabled={!lead} />
      </Field>
      <Field name="torque_unit" label="New people read torques in">
        <Choice options={own?.torque_units ?? []} disabled={!lead} />
      </Field>
      <Field name="ounces" label="Their ounces and quarts are">
        <Choice options={OUNCES} disabled={!lead} />
      </Field>
      <Field name="idle_minutes" label="A bench's tablet waits for hands, minutes">
        <InputNumber disabled={!lead} min={1} max={240} precision={0} />
      </Field>
    </Ask>
  );
}

/** The workshop's name, place, prices and units; a lead sets them. */
export function SettingsForm({ lead }: { lead: boolean }) {
  const { settings, save } = useSettings();
  if (!settings) return null;
  return (
    <section className={askCss.sheetPaper} aria-label="Name, place and prices">
      <h2>Name, place and prices</h2>
      <Filled settings={settings} save={save} lead={lead} />
    </section>
  );
}
