import { Button, Form, Input } from "antd";
import { Refusal } from "../api/client";
import { useSignIn } from "../api/hooks";
import { SightGlass } from "../glass/SightGlass";
import { Refused } from "./Refused";

interface Fields {
  username: string;
  password: string;
}

export function SignIn({ workshop }: { workshop: string }) {
  const signIn = useSignIn();
  const said =
    signIn.error instanceof Refusal
      ? signIn.error.message
      : signIn.error
        ? "The server does not answer. Try again in a moment."
        : "";
  return (
    <main className="sign-in">
      <section className="sign-in-glasses" aria-hidden>
        {[0.9, 0.6, 0.35, 0.1].map((level) => (
          <SightGlass key={level} level={level} age={1 - level} state="fine" size={120} />
        ))}
      </section>
      <section className="sign-in-card">
        <h1>Oil Ward</h1>
        <p className="soft">{workshop}</p>
        <Form<Fields>
          className="ask"
          layout="vertical"
          requiredMark={false}
          onFinish={(given) => signIn.mutate(given)}
        >
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
          <Refused said={said} />
          <Button type="primary" htmlType="submit" size="large" block disabled={signIn.isPending}>
            Sign in
          </Button>
        </Form>
      </section>
    </main>
  );
}
