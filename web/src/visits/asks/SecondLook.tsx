import { useMutation, useQueryClient } from "@tanstack/react-query";
import { Input } from "antd";
import { useState } from "react";
import { api, taken } from "../../api/client";
import { keys } from "../../api/hooks";
import { keep } from "../../api/keep";
import { Ask, Field } from "../../ui/Ask";
import type { Sheet } from "../outbox";
import type { Step } from "../sheet";

interface Who {
  username: string;
  password: string;
}

/** A second person looks at a fastener that two stand for, and says so with a PIN or password: it goes to
 * the server at once and is kept nowhere. */
export function SecondLook({ sheet, step }: { sheet: Sheet; step: Step }) {
  const client = useQueryClient();
  const [id, setId] = useState(() => crypto.randomUUID());
  const look = useMutation({
    mutationFn: (who: Who) =>
      taken(
        api.POST("/api/visits/{visit_id}/second/", {
          params: { path: { visit_id: sheet.id } },
          body: { id, step: step.id, ...who },
        }),
      ),
    onSuccess: async (answer) => {
      setId(crypto.randomUUID());
      await keep(client, keys.visit(sheet.id), answer);
    },
  });
  return (
    <Ask
      initial={{ username: "", password: "" }}
      send={(who: Who) => look.mutate(who)}
      error={look.error}
      pending={look.isPending}
      submit="I looked at it"
    >
      <p>Somebody else puts a hand on it and looks at the mark, then says so here.</p>
      <Field name="username" label="Who looked" need="Say who looked.">
        <Input autoComplete="off" />
      </Field>
      <Field name="password" label="PIN or password" need="Type the PIN or password.">
        <Input.Password autoComplete="off" />
      </Field>
    </Ask>
  );
}
