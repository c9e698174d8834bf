import { Button, Form, Input } from "antd";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, Refusal, taken } from "../api/client";
import { keys, useSignIn } from "../api/hooks";
import { SightGlass } from "../glass/SightGlass";
import { Refused } from "../ui/Refused";
import { Doorway } from "./tablets/Doorway";
import askCss from "../ui/ask.module.css";
import doorsCss from "./doors.module.css";
import textCss from "../ui/text.module.css";

interface Fields {
  username: string;
  password: string;
  second?: string;
}

// whoever is asked for it has given the right password
const SECOND = ["access.second", "access.wrong_second"];

/** The way in: on a bench's tablet by name and PIN, elsewhere by password. */
export function SignIn({ workshop }: { workshop: string }) {
  const [byPassword, setByPassword] = useState(false);
  const doorway = useQuery({
    queryKey: keys.doorway,
    queryFn: () => taken(api.GET("/api/doorway/")),
  });
  if (doorway.data?.name && !byPassword) {
    return <Doorway doorway={doorway.data} byPassword={() => setByPassword(true)} />;
  }
  return <ByPassword workshop={workshop} />;
}

function SecondAsked() {
  return (
    <Form.Item name="second" label="What your app shows now, or a recovery code">
      <Input autoFocus autoComplete="one-time-code" autoCapitalize="none" />
    </Form.Item>
  );
}

function ByPassword({ workshop }: { workshop: string }) {
  const signIn = useSignIn();
  const [second, setSecond] = useState(false);
  const send = (given: Fields) =>
    signIn.mutate(
      { ...given, second: given.second ?? "" },
      {
        onError: (error) => {
          if (error instanceof Refusal && SECOND.includes(error.problem.code)) setSecond(true);
        },
      },
    );
  const said =
    signIn.error instanceof Refusal
      ? signIn.error.message
      : signIn.error
        ? "The server does not answer. Try again in a moment."
        : "";
  return (
    <main className={doorsCss.signIn}>
      <section className={doorsCss.signInGlasses} aria-hidden>
        {[0.9, 0.6, 0.35, 0.1].map((level) => (
          <SightGlass key={level} level={level} age={1 - level} state="fine" size={120} />
        ))}
      </section>
      <section className={doorsCss.signInCard}>
        <h1>Oil Ward</h1>
        <p className={textCss.soft}>{workshop}</p>
        <Form<Fields> className={askCss.ask} layout="vertical" requiredMark={false} onFinish={send}>
          <Form.Item
            name="username"
            label="Name"
            rules={[{ required: true, message: "Type your name." }]}
          >
            <Input autoFocus autoComplete="username" autoCapitalize="none" />
          </Form.Item>
          <Form.Item
            name="password"
            label="Password"
            rules={[{ required: true, message: "Type your password." }]}
          >
            <Input.Password autoComplete="current-password" />
          </Form.Item>
          {second && <SecondAsked />}
          <Refused said={said} />
          <Button type="primary" htmlType="submit" size="large" block disabled={signIn.isPending}>
            Sign in
          </Button>
        </Form>
      </section>
    </main>
  );
}
