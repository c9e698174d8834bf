import { clsx } from "clsx";
import { Input, Segmented } from "antd";
import { useState } from "react";
import { api, type Shape, gone } from "../api/client";
import { useBikeWrite } from "../api/hooks";
import { Ask, Field } from "../ui/Ask";
import { Day } from "../ui/Day";
import { Dialog } from "../ui/Dialog";
import askCss from "../ui/ask.module.css";
import textCss from "../ui/text.module.css";

type Told = Shape["ElsewhereRequest"];

function useElsewhere(bike: string, done: () => void) {
  return useBikeWrite(
    bike,
    (body: Told) =>
      gone(
        api.POST("/api/bikes/{bike_id}/elsewhere/", {
          params: { path: { bike_id: bike } },
          body,
        }),
      ),
    done,
  );
}

const FIRST = { done_on: "", odometer: "", fluid: "", amount: "", by: "", proof: "" };
const WHAT: { value: Told["what"]; label: string }[] = [
  { value: "service", label: "A service" },
  { value: "top-up", label: "A top-up" },
];

function Fields({ what, bike }: { what: Told["what"]; bike: Shape["BikePage"] }) {
  return (
    <>
      <Field name="done_on" label="Done on">
        <Day />
      </Field>
      <Field name="odometer" label={`Odometer then, in ${bike.odometer_unit}`}>
        <Input placeholder={`now ${bike.odometer}`} />
      </Field>
      <Field name="amount" label={what === "service" ? "What went in, if known" : "What went in"}>
        <Input />
      </Field>
      <Field name="fluid" label="Which fluid, if known">
        <Input />
      </Field>
      <Field name="by" label="Who did it">
        <Input placeholder="the owner, another workshop" />
      </Field>
      {what === "service" && (
        <Field name="proof" label="What says so (empty: only their word)">
          <Input placeholder="invoice number, service book" />
        </Field>
      )}
    </>
  );
}

/** What was done without a run sheet: by the owner, in another workshop, from an old invoice. */
export function Elsewhere({
  bike,
  reservoir,
  close,
}: {
  bike: Shape["BikePage"];
  reservoir: Shape["ReservoirPage"];
  close: () => void;
}) {
  const [id] = useState(() => crypto.randomUUID());
  const [what, setWhat] = useState<Told["what"]>("service");
  const save = useElsewhere(bike.id, close);
  const { key, label } = reservoir.glass;
  return (
    <Dialog
      open
      title={`Done without a run sheet: ${label}`}
      onCancel={close}
      footer={null}
      width={680}
    >
      <Segmented block size="large" value={what} options={WHAT} onChange={setWhat} />
      <p className={textCss.soft}>
        {what === "service"
          ? "It counts from then on. Without proof it stays marked as somebody’s word until this workshop has done it once."
          : "What was added between two services: it counts for what the bike uses, and changes no due date."}
      </p>
      <Ask
        className={clsx(askCss.ask, askCss.askTwo)}
        initial={FIRST}
        send={(given, sure) => save.mutate({ ...given, id, what, reservoir: key, sure })}
        error={save.error}
        pending={save.isPending}
        submit="Write it down"
      >
        <Fields what={what} bike={bike} />
      </Ask>
    </Dialog>
  );
}
