import { Button, Form, type FormInstance } from "antd";
import { createContext, use, useEffect, useRef, type ReactElement, type ReactNode } from "react";
import { problemOf, Refusal, type Problem } from "../api/client";
import { FieldAnswer } from "./FieldAnswer";
import { Refused } from "./Refused";
import askCss from "./ask.module.css";

interface Said {
  problem: Problem | null;
  answer: (field: string, said: string, sure: string) => void;
}

const Server = createContext<Said>({ problem: null, answer: () => undefined });

/** What was refused as a whole, not at a field. */
function AsAWhole({ error }: { error: Error | null }) {
  const atField = error instanceof Refusal && error.problem.errors.some((one) => one.pointer);
  return atField ? null : <Refused said={error?.message} />;
}

interface Props<T> {
  /** What stands in the fields at first. */
  initial: T;
  /** Sends it; `sure` are the answers to the server's questions so far. */
  send: (given: T, sure: string[]) => void;
  error: Error | null;
  pending: boolean;
  submit: ReactNode;
  children: ReactNode;
  /** More buttons beside the one that sends. */
  beside?: ReactNode;
  className?: string;
  form?: FormInstance<T>;
  changed?: (given: T) => void;
}

/** Takes over what changed meanwhile, on another tablet too, wherever nobody has typed here. */
function useStands<T extends object>(form: FormInstance<T>, initial: T) {
  const stands = JSON.stringify(initial);
  useEffect(() => {
    const now = JSON.parse(stands) as T;
    const untouched = Object.entries(now).filter(([name]) => !form.isFieldTouched(name as never));
    form.setFieldsValue(Object.fromEntries(untouched) as never);
  }, [form, stands]);
}

/** The one pattern of a form: its fields, what the server says at each, and one button that sends. An
 * answer to a question goes into its field and is sent at once; nothing that was typed is lost. */
export function Ask<T extends object>({ initial, send, error, pending, form, ...look }: Props<T>) {
  const [own] = Form.useForm<T>(form);
  const sure = useRef<string[]>([]);
  useStands(own, initial);
  const go = () => send({ ...initial, ...(own.getFieldsValue(true) as T) }, sure.current);
  const problem = problemOf(error);
  const answer: Said["answer"] = (field, said, yes) => {
    own.setFieldValue(field as never, said as never);
    if (yes) sure.current = [...sure.current, yes];
    go();
  };
  return (
    <Form
      form={own}
      layout="vertical"
      requiredMark={false}
      autoComplete="off"
      className={look.className ?? askCss.ask}
      initialValues={initial}
      onFinish={go}
      onValuesChange={(_, all) => look.changed?.(all as T)}
    >
      <Server value={{ problem, answer }}>{look.children}</Server>
      <div className={askCss.askEnd}>
        <AsAWhole error={error} />
        {look.submit && (
          <div className={askCss.askTools}>
            <Button type="primary" htmlType="submit" size="large" loading={pending}>
              {look.submit}
            </Button>
            {look.beside}
          </div>
        )}
      </div>
    </Form>
  );
}

/** One field of a form with its label; below it what the server says of it, once. */
export function Field({
  name,
  label,
  children,
  tick = false,
  need,
  below,
  className,
}: {
  name: string;
  label: ReactNode;
  children: ReactElement;
  tick?: boolean;
  /** What to say where nothing was typed and something has to be. */
  need?: string;
  below?: ReactNode;
  className?: string;
}) {
  const { problem, answer } = use(Server);
  const found = problem?.errors.some((error) => error.pointer === `/${name}`);
  return (
    <Form.Item
      name={name}
      label={tick ? undefined : label}
      rules={need ? [{ required: true, whitespace: true, message: need }] : []}
      valuePropName={tick ? "checked" : "value"}
      validateStatus={found && !problem?.question ? "error" : undefined}
      extra={below}
      className={className}
      help={
        found ? (
          <FieldAnswer
            problem={problem}
            field={name}
            answer={(said, sure) => answer(name, said, sure)}
          />
        ) : undefined
      }
    >
      {children}
    </Form.Item>
  );
}
