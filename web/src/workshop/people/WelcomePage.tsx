import { Input } from "antd";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useNavigate, useParams } from "react-router";
import { api, taken, type Shape } from "../../api/client";
import { another } from "../../api/hooks";
import { keys } from "../../api/keys";
import { Ask, Field } from "../../ui/Ask";
import { Waiting } from "../../ui/States";
import askCss from "../../ui/ask.module.css";
import textCss from "../../ui/text.module.css";
import workshopCss from "../workshop.module.css";

function Spent() {
  return (
    <main className={workshopCss.welcome}>
      <section className={askCss.askGroup}>
        <h1>This link opens nothing any more</h1>
        <p>It was used, or is too old. Ask a lead of the workshop for another one.</p>
      </section>
    </main>
  );
}

function Choosing({ token, page }: { token: string; page: Shape["WelcomePage"] }) {
  const client = useQueryClient();
  const go = useNavigate();
  const choose = useMutation({
    mutationFn: (body: Shape["ChosenRequest"]) =>
      taken(api.POST("/api/welcome/{token}/", { params: { path: { token } }, body })),
    onSuccess: async (session) => {
      await another(client, session);
      void go("/");
    },
  });
  return (
    <main className={workshopCss.welcome}>
      <section className={askCss.askGroup}>
        <h1>Welcome, {page.name}</h1>
        <p className={textCss.soft}>
          {page.workshop}. You sign in as <b>{page.username}</b>.
        </p>
        <Ask
          initial={{ password: "", pin: "" }}
          send={(given) => choose.mutate(given)}
          error={choose.error}
          pending={choose.isPending}
          submit="Come in"
        >
          <Field
            name="password"
            label="Choose a password, at least twelve characters"
            need="Choose a password."
          >
            <Input.Password autoComplete="new-password" />
          </Field>
          <Field
            name="pin"
            label="A PIN for the benches' tablets, four to eight figures, if you like"
          >
            <Input.Password inputMode="numeric" autoComplete="off" maxLength={8} />
          </Field>
        </Ask>
      </section>
    </main>
  );
}

/** What a one-time link opens: choosing a password, and a PIN for the benches' tablets. */
export function WelcomePage() {
  const { token = "" } = useParams();
  const page = useQuery({
    queryKey: keys.welcome(token),
    queryFn: () => taken(api.GET("/api/welcome/{token}/", { params: { path: { token } } })),
    retry: false,
    staleTime: Infinity,
  });
  if (page.isPending) return <Waiting what="Opening the door" />;
  return page.isError ? <Spent /> : <Choosing token={token} page={page.data} />;
}
