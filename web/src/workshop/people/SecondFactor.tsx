import { Button, Input, QRCode } from "antd";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, taken, type Shape } from "../../api/client";
import { keep } from "../../api/keep";
import { keys } from "../../api/keys";
import { Ask, Field } from "../../ui/Ask";
import { Refused } from "../../ui/Refused";
import askCss from "../../ui/ask.module.css";
import textCss from "../../ui/text.module.css";
import workshopCss from "../workshop.module.css";

function useSecond() {
  const client = useQueryClient();
  const { data } = useQuery({
    queryKey: keys.ownSecond,
    queryFn: () => taken(api.GET("/api/own/second/")),
  });
  const known = () => client.invalidateQueries({ queryKey: keys.ownSecond });
  const begin = useMutation({ mutationFn: () => taken(api.POST("/api/own/second/")) });
  const confirm = useMutation({
    mutationFn: (body: Shape["SecondCodeRequest"]) => taken(api.PUT("/api/own/second/", { body })),
    onSuccess: known,
  });
  const codes = useMutation({
    mutationFn: () => taken(api.POST("/api/own/second/codes/")),
    onSuccess: known,
  });
  const clear = useMutation({
    mutationFn: () => taken(api.DELETE("/api/own/second/")),
    onSuccess: async (page) => {
      await keep(client, keys.ownSecond, page);
      for (const one of [begin, confirm, codes]) one.reset();
    },
  });
  return { data, begin, confirm, codes, clear };
}

function Codes({ codes, done }: { codes: string[]; done: () => void }) {
  return (
    <>
      <p>
        <b>Ten recovery codes, shown this once.</b> Each lets you in once without the app. Print
        them or write them down, and keep them where the phone is not.
      </p>
      <ul className={workshopCss.codes}>
        {codes.map((code) => (
          <li key={code}>{code}</li>
        ))}
      </ul>
      <Button type="primary" size="large" onClick={done}>
        I have them
      </Button>
    </>
  );
}

type Second = ReturnType<typeof useSecond>;

function SettingUp({
  begun,
  confirm,
}: {
  begun: Shape["SecondBegun"];
  confirm: Second["confirm"];
}) {
  return (
    <>
      <p>
        Photograph this with an app for one-time codes, or type the key into it. Then type the six
        figures the app shows.
      </p>
      <QRCode type="svg" value={begun.address} size={224} />
      <p className={workshopCss.key}>{begun.secret.replace(/(.{4})/g, "$1 ")}</p>
      <Ask
        initial={{ code: "" }}
        send={(given) => confirm.mutate(given)}
        error={confirm.error}
        pending={confirm.isPending}
        submit="Confirm"
      >
        <Field name="code" label="What the app shows now" need="Type the six figures.">
          <Input inputMode="numeric" autoComplete="one-time-code" maxLength={10} />
        </Field>
      </Ask>
    </>
  );
}

function Stands({ page, second }: { page: Shape["SecondPage"]; second: Second }) {
  const { begin, codes, clear } = second;
  if (!page.on) {
    return (
      <>
        <p className={textCss.soft}>
          Signing in by password then asks for six figures that an app on your phone shows as well.
          A PIN at a bench&apos;s tablet asks for none.
        </p>
        <Button size="large" loading={begin.isPending} onClick={() => begin.mutate()}>
          Set it up
        </Button>
      </>
    );
  }
  return (
    <>
      <p>
        Signing in by password asks for it. {page.codes_left} recovery codes are left
        {page.codes_left < 3 && ": make new ones"}.
      </p>
      <div className={workshopCss.beside}>
        <Button size="large" loading={codes.isPending} onClick={() => codes.mutate()}>
          Make new recovery codes
        </Button>
        <Button size="large" danger loading={clear.isPending} onClick={() => clear.mutate()}>
          Ask for it no more
        </Button>
      </div>
    </>
  );
}

function Body({ page, second }: { page: Shape["SecondPage"]; second: Second }) {
  const [seen, setSeen] = useState<string[] | null>(null);
  const { begin, confirm, codes } = second;
  const made = codes.data?.codes ?? confirm.data?.codes ?? null;
  if (made && made !== seen) return <Codes codes={made} done={() => setSeen(made)} />;
  if (begin.data && !page.on) return <SettingUp begun={begin.data} confirm={confirm} />;
  return <Stands page={page} second={second} />;
}

/** A lead's second factor: set up, confirmed, its recovery codes shown once, and cleared. */
export function SecondFactor() {
  const second = useSecond();
  const { data, begin, codes, clear } = second;
  if (!data || (!data.may && !data.on)) return null;
  return (
    <section className={askCss.sheetPaper} aria-label="Second factor">
      <h2>Your second factor</h2>
      <Body page={data} second={second} />
      <Refused said={(begin.error ?? codes.error ?? clear.error)?.message} />
    </section>
  );
}
