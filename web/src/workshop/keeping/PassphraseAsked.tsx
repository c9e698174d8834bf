import { Input } from "antd";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { api, taken } from "../../api/client";
import { keep } from "../../api/keep";
import { keys } from "../../api/keys";
import { Ask, Field } from "../../ui/Ask";
import textCss from "../../ui/text.module.css";

/** Asks for the backups' passphrase from where it is kept, so that it is known to be kept. */
export function PassphraseAsked({ why }: { why: string }) {
  const queries = useQueryClient();
  const type = useMutation({
    mutationFn: (body: { passphrase: string }) =>
      taken(api.PUT("/api/keeping/passphrase/", { body })),
    onSuccess: (page) => keep(queries, keys.keeping, page),
  });
  return (
    <>
      <p className={textCss.refusal}>{why}</p>
      <Ask
        initial={{ passphrase: "" }}
        send={(given) => type.mutate(given)}
        error={type.error}
        pending={type.isPending}
        submit="It is this"
      >
        <Field
          name="passphrase"
          label="The backups' passphrase"
          need="Type it as it was shown: five groups of five letters and figures."
        >
          <Input autoComplete="off" spellCheck={false} />
        </Field>
      </Ask>
    </>
  );
}
