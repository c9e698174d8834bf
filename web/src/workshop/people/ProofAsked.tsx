import { Input } from "antd";
import { useMutation } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { api, gone, proof } from "../../api/client";
import { Ask, Field } from "../../ui/Ask";
import { Dialog } from "../../ui/Dialog";
import textCss from "../../ui/text.module.css";

/** Asks for the password again before what nobody else must do with a tablet somebody walked away from. */
export function ProofAsked() {
  const [answer, setAnswer] = useState<((proved: boolean) => void) | null>(null);
  useEffect(() => {
    proof.ask = () => new Promise((resolve) => setAnswer(() => resolve));
    return () => {
      proof.ask = () => Promise.resolve(false);
    };
  }, []);
  const prove = useMutation({
    mutationFn: (body: { current: string }) => gone(api.PUT("/api/own/proof/", { body })),
  });
  const done = (proved: boolean) => {
    answer?.(proved);
    setAnswer(null);
    prove.reset();
  };
  return (
    <Dialog
      title="Is it still you?"
      open={answer !== null}
      footer={null}
      onCancel={() => done(false)}
    >
      <p className={textCss.soft}>For this you type your password again.</p>
      <Ask
        initial={{ current: "" }}
        send={(given) => prove.mutate(given, { onSuccess: () => done(true) })}
        error={prove.error}
        pending={prove.isPending}
        submit="Go on"
      >
        <Field name="current" label="Your password" need="Type the password you sign in with.">
          <Input.Password autoComplete="current-password" />
        </Field>
      </Ask>
    </Dialog>
  );
}
