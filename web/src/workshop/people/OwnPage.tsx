import { Input } from "antd";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { keep } from "../../api/keep";
import { api, taken, type Shape } from "../../api/client";
import { keys } from "../../api/keys";
import { Ask, Field } from "../../ui/Ask";
import { Choice } from "../../ui/Choice";
import { OUNCES } from "../../ui/units";
import { SecondFactor } from "./SecondFactor";
import { Sessions } from "./Sessions";
import { useOwnPage } from "./useOwnPage";
import askCss from "../../ui/ask.module.css";
import pageCss from "../../ui/page.module.css";
import textCss from "../../ui/text.module.css";
import workshopCss from "../workshop.module.css";

type Own = Shape["OwnPage"];

/** A write of one's own: what stands is known anew, and said. */
function useOwn<Body>(write: (body: Body) => Promise<Own>) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: write,
    onSuccess: async (own) => {
      await keep(client, keys.own, own);
      void client.invalidateQueries({ predicate: ({ queryKey }) => queryKey[0] !== keys.own[0] });
    },
  });
}

function Units({ own }: { own: Own }) {
  const save = useOwn((body: Shape["OwnUnitsRequest"]) => taken(api.PUT("/api/own/", { body })));
  const { volume_unit, torque_unit, ounces } = own;
  return (
    <section className={askCss.sheetPaper} aria-label="Units">
      <h2>What you read in</h2>
      <Ask
        initial={{ volume_unit, torque_unit, ounces }}
        send={(given) => save.mutate(given)}
        error={save.error}
        pending={save.isPending}
        submit="Set"
      >
        <Field name="volume_unit" label="Volumes">
          <Choice options={own.volume_units} />
        </Field>
        <Field name="torque_unit" label="Torques">
          <Choice options={own.torque_units} />
        </Field>
        <Field name="ounces" label="Ounces and quarts are">
          <Choice options={OUNCES} />
        </Field>
      </Ask>
      {save.isSuccess && <p role="status">Set. Everything is said in them from now on.</p>}
    </section>
  );
}

const CURRENT = (
  <Field name="current" label="Your password now" need="Type the password you sign in with.">
    <Input.Password autoComplete="current-password" />
  </Field>
);

function Password() {
  const [round, setRound] = useState(0);
  const save = useOwn((body: Shape["NewPasswordRequest"]) =>
    taken(api.PUT("/api/own/password/", { body })),
  );
  return (
    <section className={askCss.sheetPaper} aria-label="Password">
      <h2>Your password</h2>
      <Ask
        key={round}
        initial={{ current: "", password: "" }}
        send={(given) => save.mutate(given, { onSuccess: () => setRound(round + 1) })}
        error={save.error}
        pending={save.isPending}
        submit="Change it"
      >
        {CURRENT}
        <Field name="password" label="The new one" need="Choose a new one.">
          <Input.Password autoComplete="new-password" />
        </Field>
      </Ask>
      {save.isSuccess && (
        <p role="status">Changed. Wherever else you were signed in, you are out.</p>
      )}
    </section>
  );
}

function Pin({ own }: { own: Own }) {
  const [round, setRound] = useState(0);
  const save = useOwn((body: Shape["NewPinRequest"]) => taken(api.PUT("/api/own/pin/", { body })));
  return (
    <section className={askCss.sheetPaper} aria-label="PIN">
      <h2>Your PIN for the benches&apos; tablets</h2>
      <p className={textCss.soft}>
        {own.has_pin
          ? "You have one. Leave the field empty to take it away."
          : "You have none yet."}
      </p>
      <Ask
        key={round}
        initial={{ current: "", pin: "" }}
        send={(given) => save.mutate(given, { onSuccess: () => setRound(round + 1) })}
        error={save.error}
        pending={save.isPending}
        submit="Set it"
      >
        {CURRENT}
        <Field name="pin" label="Four to eight figures">
          <Input.Password inputMode="numeric" autoComplete="off" maxLength={8} />
        </Field>
      </Ask>
      {save.isSuccess && <p role="status">{own.has_pin ? "Set." : "Taken away."}</p>}
    </section>
  );
}

/** What everyone sees and changes of themselves. */
export function OwnPage() {
  const own = useOwnPage();
  if (!own) return null;
  return (
    <>
      <div className={pageCss.heading}>
        <h1>{own.name}</h1>
        <p className={pageCss.headingSum}>
          {own.role}, signs in as {own.username}
          {own.qualifications.length > 0 && `. Qualified for ${own.qualifications.join(", ")}`}
        </p>
      </div>
      <div className={workshopCss.ownPage}>
        <Units own={own} />
        <Pin own={own} />
        <Password />
        <SecondFactor />
        <Sessions />
      </div>
    </>
  );
}
