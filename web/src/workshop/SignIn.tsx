import { Button, Form, Input } from "antd";
import { useMutation, useQuery } from "@tanstack/react-query";
import { useState, type ReactNode } from "react";
import { api, Refusal, taken } from "../api/client";
import { keys, useSignIn } from "../api/hooks";
import { SightGlass } from "../glass/SightGlass";
import { Refused } from "../ui/Refused";
import { shown } from "./people/passkey";
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
const ASKED = "access.second";
const SECOND = [ASKED, "access.wrong_second"];

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

function SecondAsked({ passkey }: { passkey: boolean }) {
  return (
    <Form.Item
      name="second"
      label={`${passkey ? "Or what" : "What"} your app shows now, or a recovery code`}
    >
      <Input autoFocus={!passkey} autoComplete="one-time-code" autoCapitalize="none" />
    </Form.Item>
  );
}

interface Beside {
  second: boolean;
  passkey: string;
}

/** What is asked for beside the password: a code, and where one is known a passkey as well. */
function askedBeside(error: Error | null): Beside | null {
  const problem = error instanceof Refusal ? error.problem : null;
  if (!problem || !SECOND.includes(problem.code)) return null;
  return { second: true, passkey: problem.passkey ?? "" };
}

function wordsOf(error: Error | null): string | undefined {
  if (error instanceof Refusal) {
    // what is only asked for now stands as a field, and is no fault
    return error.problem.code === ASKED ? undefined : error.message;
  }
  return error ? "The server does not answer. Try again in a moment." : undefined;
}

function useEntering() {
  const signIn = useSignIn();
  const [form] = Form.useForm<Fields>();
  const [beside, setBeside] = useState<Beside>({ second: false, passkey: "" });
  const send = (passkey = "") => {
    const { second, ...given } = form.getFieldsValue();
    signIn.mutate(
      { ...given, second: passkey ? "" : (second ?? ""), passkey },
      { onError: (error) => setBeside((before) => askedBeside(error) ?? before) },
    );
  };
  const show = useMutation({
    mutationFn: () => shown(beside.passkey),
    onSuccess: (passkey) => send(passkey),
  });
  // what the device said first is over once something else is tried
  const byCode = () => {
    show.reset();
    send();
  };
  const said = show.error?.message ?? wordsOf(signIn.error);
  return { form, beside, byCode, show, said, pending: signIn.isPending };
}

function Card({ workshop, children }: { workshop: string; children: ReactNode }) {
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
        {children}
      </section>
    </main>
  );
}

function UsePasskey({ show }: { show: ReturnType<typeof useEntering>["show"] }) {
  return (
    <Button
      type="primary"
      size="large"
      block
      loading={show.isPending}
      onClick={() => show.mutate()}
    >
      Use your passkey
    </Button>
  );
}

function ByPassword({ workshop }: { workshop: string }) {
  const { form, beside, byCode, show, said, pending } = useEntering();
  const passkey = beside.passkey !== "";
  return (
    <Card workshop={workshop}>
      <Form<Fields>
        form={form}
        className={askCss.ask}
        layout="vertical"
        requiredMark={false}
        onFinish={byCode}
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
        {passkey && <UsePasskey show={show} />}
        {beside.second && <SecondAsked passkey={passkey} />}
        <Refused said={said} />
        <Button
          type={passkey ? "default" : "primary"}
          htmlType="submit"
          size="large"
          block
          disabled={pending}
        >
          Sign in
        </Button>
      </Form>
    </Card>
  );
}
