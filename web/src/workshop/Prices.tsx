import { Button, Input, Select } from "antd";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, Refusal, taken, type Shape } from "../api/client";
import { FieldAnswer } from "./FieldAnswer";
import { Refused } from "./Refused";

const ZONES = Intl.supportedValuesOf("timeZone").map((zone) => ({ value: zone }));

const FIELDS: ["coldest_start" | "hour_price" | "flat_price", string][] = [
  ["coldest_start", "Coldest start expected, °C"],
  ["hour_price", "An hour of work"],
  ["flat_price", "Flat price of a visit"],
];

/** The coldest start expected and the workshop's prices; a lead sets them. */
export function PricesForm({ lead }: { lead: boolean }) {
  const client = useQueryClient();
  const prices = useQuery({
    queryKey: ["prices"],
    queryFn: () => taken(api.GET("/api/workshop/prices/")),
  });
  const [typed, setTyped] = useState<Partial<Shape["Prices"]>>({});
  const save = useMutation({
    mutationFn: (body: Shape["PricesRequest"]) => taken(api.PUT("/api/workshop/prices/", { body })),
    onSuccess: (saved) => {
      client.setQueryData(["prices"], saved);
      setTyped({});
      void client.invalidateQueries({ queryKey: ["shelf"] });
    },
    onError: () => void client.invalidateQueries({ queryKey: ["prices"] }),
  });
  const problem = save.error instanceof Refusal ? save.error.problem : null;
  if (!prices.data) return null;
  const form = { ...prices.data, ...typed };
  return (
    <form
      className="prices"
      onSubmit={(event) => {
        event.preventDefault();
        save.mutate(form);
      }}
    >
      {FIELDS.map(([field, label]) => (
        <label key={field}>
          {label}
          <Input
            disabled={!lead}
            value={form[field]}
            onChange={(event) => setTyped({ ...typed, [field]: event.target.value })}
          />
          <FieldAnswer
            problem={problem}
            field={field}
            answer={(said) => setTyped({ ...typed, [field]: said })}
          />
        </label>
      ))}
      <label>
        Where the workshop stands, for its days
        <Select
          aria-label="Time zone"
          disabled={!lead}
          showSearch
          options={ZONES}
          value={form.time_zone}
          onChange={(time_zone: string) => setTyped({ ...typed, time_zone })}
        />
        <FieldAnswer problem={problem} field="time_zone" answer={() => undefined} />
      </label>
      {lead && (
        <Button htmlType="submit" disabled={save.isPending}>
          Set
        </Button>
      )}
      {save.error && !problem && <Refused said={save.error.message} />}
    </form>
  );
}
