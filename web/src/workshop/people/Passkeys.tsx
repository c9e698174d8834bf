import { Button, Input, Popconfirm } from "antd";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { api, taken, type Shape } from "../../api/client";
import { keep } from "../../api/keep";
import { keys } from "../../api/keys";
import { Ask, Field } from "../../ui/Ask";
import { momentWords } from "../../ui/days";
import { Refused } from "../../ui/Refused";
import textCss from "../../ui/text.module.css";
import workshopCss from "../workshop.module.css";
import { made } from "./passkey";

type Page = Shape["SecondPage"];

/** A passkey begun, made by the device and kept; its answer holds recovery codes where it is the first. */
export function useMakePasskey() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: async (name: string) => {
      const { options } = await taken(api.POST("/api/own/second/passkeys/"));
      const answer = await made(options);
      return taken(api.PUT("/api/own/second/passkeys/", { body: { answer, name } }));
    },
    // an answer that was lost on its way does not say that nothing was made
    onSettled: () => client.invalidateQueries({ queryKey: keys.ownSecond }),
  });
}

function useDropPasskey() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (number: number) =>
      taken(api.DELETE("/api/own/second/passkeys/{number}/", { params: { path: { number } } })),
    onSuccess: (page) => keep(client, keys.ownSecond, page),
  });
}

function Line({ line, drop }: { line: Shape["PasskeyLine"]; drop: (id: number) => void }) {
  return (
    <li>
      <span>
        <b>{line.name}</b>
        <br />
        <span className={textCss.soft}>
          under {line.host}, since {momentWords(line.since)}
          {line.used ? `, last shown ${momentWords(line.used)}` : ", not shown yet"}
        </span>
      </span>
      <Popconfirm
        title="It opens nothing any more."
        okText="Remove it"
        cancelText="Leave it"
        onConfirm={() => drop(line.id)}
      >
        <Button size="large" aria-label={`Remove ${line.name}`}>
          Remove
        </Button>
      </Popconfirm>
    </li>
  );
}

function Another({ page, make }: { page: Page; make: ReturnType<typeof useMakePasskey> }) {
  if (!page.here) {
    return (
      <p className={textCss.soft}>
        A passkey is made where Oil Ward is opened by its name
        {page.by_name ? (
          <>
            : go to <a href={page.by_name}>{page.by_name}</a>.
          </>
        ) : (
          "; its settings lead by number."
        )}
      </p>
    );
  }
  return (
    <Ask
      key={page.passkeys.length}
      initial={{ name: "" }}
      send={(given) => make.mutate(given.name)}
      error={make.error}
      pending={make.isPending}
      submit="Make a passkey"
    >
      <Field
        name="name"
        label="Call the device that keeps it"
        need="Call it something: “my phone”."
        below={`Good under ${page.here}.`}
      >
        <Input maxLength={60} />
      </Field>
    </Ask>
  );
}

/** One's passkeys, and another. */
export function Passkeys({ page, make }: { page: Page; make: ReturnType<typeof useMakePasskey> }) {
  const drop = useDropPasskey();
  return (
    <>
      {page.passkeys.length > 0 && (
        <ul className={workshopCss.passkeys} aria-label="Passkeys">
          {page.passkeys.map((line) => (
            <Line key={line.id} line={line} drop={(id) => drop.mutate(id)} />
          ))}
        </ul>
      )}
      <Refused said={drop.error?.message} />
      {page.may && <Another page={page} make={make} />}
    </>
  );
}
