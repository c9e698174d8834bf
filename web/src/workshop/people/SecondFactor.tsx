import { Button, Input, Popconfirm, QRCode } from "antd";
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
import { Passkeys, useMakePasskey } from "./Passkeys";

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
  const passkey = useMakePasskey();
  const clear = useMutation({
    mutationFn: () => taken(api.DELETE("/api/own/second/")),
    onSuccess: async (page) => {
      await keep(client, keys.ownSecond, page);
      for (const one of [begin, confirm, codes, passkey]) one.reset();
    },
  });
  return { data, begin, confirm, codes, clear, passkey };
}

function Codes({ codes, done }: { codes: string[]; done: () => void }) {
  return (
    <>
      <p>
        <b>Ten recovery codes, shown this once.</b> Each lets you in once without app or passkey.
        Print them or write them down, and keep them where the phone is not.
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

function Off() {
  return (
    <p className={textCss.soft}>
      Signing in by password then asks for six figures that an app on your phone shows as well, or
      for a passkey that a device keeps. A PIN at a bench&apos;s tablet asks for none.
    </p>
  );
}

function On({ left, second }: { left: number; second: Second }) {
  const { codes, clear } = second;
  return (
    <>
      <p>
        Signing in by password asks for it. {left} recovery codes are left
        {left < 3 && ": make new ones"}.
      </p>
      <div className={workshopCss.beside}>
        <Popconfirm
          title="The codes you have are good no more."
          okText="Make new ones"
          cancelText="Leave them"
          onConfirm={() => codes.mutate()}
        >
          <Button size="large" loading={codes.isPending}>
            Make new recovery codes
          </Button>
        </Popconfirm>
        <Popconfirm
          title="A password alone lets you in then. App, passkeys and codes are forgotten."
          okText="Ask no more"
          cancelText="Leave it"
          onConfirm={() => clear.mutate()}
        >
          <Button size="large" danger loading={clear.isPending}>
            Ask for it no more
          </Button>
        </Popconfirm>
      </div>
    </>
  );
}

function Stands({ page, second }: { page: Shape["SecondPage"]; second: Second }) {
  const { begin, passkey } = second;
  return (
    <>
      {page.on ? <On left={page.codes_left} second={second} /> : <Off />}
      <h3>An app&apos;s figures</h3>
      {page.app ? (
        <p>Your app is known.</p>
      ) : (
        page.may && (
          <Button size="large" loading={begin.isPending} onClick={() => begin.mutate()}>
            Set up an app
          </Button>
        )
      )}
      <h3>Passkeys</h3>
      <Passkeys page={page} make={passkey} />
    </>
  );
}

function Body({ page, second }: { page: Shape["SecondPage"]; second: Second }) {
  const [seen, setSeen] = useState<string[] | null>(null);
  const { begin, confirm, codes, passkey } = second;
  const newest = [codes, confirm, passkey]
    .filter((one) => one.data?.codes.length)
    .sort((a, b) => b.submittedAt - a.submittedAt)[0];
  const made = newest?.data?.codes ?? null;
  if (made && made !== seen) return <Codes codes={made} done={() => setSeen(made)} />;
  if (begin.data && !page.app) return <SettingUp begun={begin.data} confirm={confirm} />;
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
