import { Form, Input } from "antd";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, taken, type Shape } from "../api/client";
import { keys } from "../api/keys";
import { Ask, Field } from "./Ask";
import { Choice } from "./Choice";

const ZONES = Intl.supportedValuesOf("timeZone");

type Prices = Shape["Prices"];

function usePrices() {
  const client = useQueryClient();
  const prices = useQuery({
    queryKey: keys.prices,
    queryFn: () => taken(api.GET("/api/workshop/prices/")),
  });
  const save = useMutation({
    mutationFn: (body: Shape["PricesRequest"]) => taken(api.PUT("/api/workshop/prices/", { body })),
    onSuccess: (saved) => {
      client.setQueryData(keys.prices, saved);
      void client.invalidateQueries({ queryKey: keys.shelf });
      void client.invalidateQueries({ queryKey: keys.plans });
    },
    // somebody else may have set them meanwhile: what stands now is shown beside what is typed
    onError: () => void client.invalidateQueries({ queryKey: keys.prices }),
  });
  return { prices: prices.data, save };
}

function Filled({
  prices,
  save,
  lead,
}: { prices: Prices; lead: boolean } & Pick<ReturnType<typeof usePrices>, "save">) {
  const [form] = Form.useForm<Prices>();
  const money = { disabled: !lead, suffix: prices.currency };
  return (
    <Ask
      form={form}
      className="ask prices"
      initial={prices}
      send={(given) => save.mutate(given, { onSuccess: (saved) => form.setFieldsValue(saved) })}
      error={save.error}
      pending={save.isPending}
      submit={lead ? "Set" : null}
    >
      <Field name="hour_price" label="An hour of work">
        <Input {...money} />
      </Field>
      <Field name="flat_price" label="Flat price of a visit">
        <Input {...money} />
      </Field>
      <Field name="currency" label="Currency, as you write it">
        <Input disabled={!lead} maxLength={5} placeholder="€" />
      </Field>
      <Field name="coldest_start" label="Coldest start expected, °C">
        <Input disabled={!lead} />
      </Field>
      <Field name="time_zone" label="Where the workshop stands, for its days">
        <Choice options={ZONES} disabled={!lead} />
      </Field>
    </Ask>
  );
}

/** The coldest start expected, the workshop's prices and where it stands; a lead sets them. */
export function PricesForm({ lead }: { lead: boolean }) {
  const { prices, save } = usePrices();
  if (!prices) return null;
  return (
    <section className="sheet-paper" aria-label="Prices and place">
      <h2>Prices and place</h2>
      <Filled prices={prices} save={save} lead={lead} />
    </section>
  );
}
