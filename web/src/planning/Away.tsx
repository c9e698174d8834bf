import { clsx } from "clsx";
import { useQuery } from "@tanstack/react-query";
import { Button, Input, Segmented, Select } from "antd";
import { useState } from "react";
import { api, gone, taken, type Shape } from "../api/client";
import { keys, useBikeWrite } from "../api/hooks";
import { Ask, Field } from "../ui/Ask";
import { Day } from "../ui/Day";
import { dayWords } from "../ui/days";
import { Dialog } from "../ui/Dialog";
import awayCss from "./away.module.css";
import askCss from "../ui/ask.module.css";
import controlsCss from "../ui/controls.module.css";
import textCss from "../ui/text.module.css";

type Line = Shape["AwayLine"];
type Told = Shape["Away"];
type Sent<Name extends keyof Shape> = Omit<Shape[Name], "id" | "sure">;

const choices = (ways: Shape["Way"][]) =>
  ways.map(({ code, words }) => ({ value: code, label: words }));
const TWO = clsx(askCss.ask, askCss.askTwo);

interface DialogProps {
  bike: string;
  label: string;
  told: Told;
  close: () => void;
}

function ToWhom({ ours, told }: { ours: boolean; told: Told }) {
  if (!ours) {
    return (
      <Field name="to" label="To whom">
        <Input />
      </Field>
    );
  }
  return (
    <>
      <Field name="own" label="To whom">
        <Select options={choices(told.own)} />
      </Field>
      <Field name="qualified" label="Qualified by">
        <Input placeholder="the maker's course, 2024" />
      </Field>
    </>
  );
}

/** To whom, until when, what is wanted, and how the bike waits. */
function HandOut({ bike, label, told, close }: DialogProps) {
  const [id] = useState(() => crypto.randomUUID());
  const [ours, setOurs] = useState(false);
  const out = useBikeWrite(
    bike,
    (body: Shape["HandOutRequest"]) =>
      gone(api.POST("/api/bikes/{bike_id}/away/", { params: { path: { bike_id: bike } }, body })),
    close,
  );
  const first: Sent<"HandOutRequest"> = {
    reservoir: told.reservoir, to: "", own: "", qualified: "", wanted: "", back_by: "", waits: null,
  }; // prettier-ignore
  return (
    <Dialog open title={`Hand out: ${label}`} onCancel={close} footer={null} width={680}>
      <Segmented
        block
        size="large"
        value={ours}
        options={[
          { value: false, label: "To a specialist" },
          { value: true, label: "To one of us, qualified for it" },
        ]}
        onChange={setOurs}
      />
      <Ask
        key={String(ours)}
        className={TWO}
        initial={first}
        send={(given) => out.mutate({ ...given, id })}
        error={out.error}
        pending={out.isPending}
        submit="It leaves"
      >
        <ToWhom ours={ours} told={told} />
        <Field name="back_by" label="Back by">
          <Day />
        </Field>
        <Field name="wanted" label="What is wanted">
          <Input placeholder="new seal, oil, charge" />
        </Field>
        <Field name="waits" label="How the bike waits">
          <Select options={choices(told.waits)} />
        </Field>
      </Ask>
      <p className={textCss.soft}>
        Nobody opens it here. Its tag comes with it: write it on the part and on the bike.
      </p>
    </Dialog>
  );
}

interface LineProps extends DialogProps {
  line: Line;
}

/** What was done to it, which oil, its gas, and the paper that says so. */
function ComesBack({ bike, label, told, line, close }: LineProps) {
  const [id] = useState(() => crypto.randomUUID());
  const back = useBikeWrite(
    bike,
    (body: Shape["BackRequest"]) =>
      gone(
        api.POST("/api/away/{handed_id}/back/", { params: { path: { handed_id: line.id } }, body }),
      ),
    close,
  );
  const first: Sent<"BackRequest"> = {
    came: null, oil: "", pressure: "", temperature: "", paper: "", note: "",
  }; // prettier-ignore
  return (
    <Dialog
      open
      title={`Back: ${label}, tag ${line.tag}`}
      onCancel={close}
      footer={null}
      width={680}
    >
      <Ask
        className={TWO}
        initial={first}
        send={(given, sure) => back.mutate({ ...given, id, sure })}
        error={back.error}
        pending={back.isPending}
        submit="It is back"
      >
        <Field name="came" label="What was done">
          <Select options={choices(told.came)} />
        </Field>
        <Field name="paper" label="Paper that says so">
          <Input placeholder="number of the bill" />
        </Field>
        <Field name="oil" label="Oil in it">
          <Input />
        </Field>
        {told.gas && (
          <>
            <Field name="pressure" label="Gas, as read">
              <Input placeholder="10.2 bar" />
            </Field>
            <Field name="temperature" label="Read at">
              <Input placeholder="18 °C" />
            </Field>
          </>
        )}
        <Field name="note" label="Note">
          <Input />
        </Field>
      </Ask>
      <p className={textCss.soft}>
        Only what was opened, or exchanged for a rebuilt one, counts as a rebuild from today.
      </p>
    </Dialog>
  );
}

/** It is on the bike again, and a second person has looked at what holds it. */
function FitAgain({ bike, label, line, close }: LineProps) {
  const [id] = useState(() => crypto.randomUUID());
  const fitted = useBikeWrite(
    bike,
    (body: Shape["FittedRequest"]) =>
      gone(
        api.POST("/api/away/{handed_id}/fitted/", {
          params: { path: { handed_id: line.id } },
          body,
        }),
      ),
    close,
  );
  return (
    <Dialog
      open
      title={`Fitted: ${label}, tag ${line.tag}`}
      onCancel={close}
      footer={null}
      width={680}
    >
      <Ask
        className={TWO}
        initial={{ torqued: "", username: "", password: "" }}
        send={(given: Sent<"FittedRequest">) => fitted.mutate({ ...given, id })}
        error={fitted.error}
        pending={fitted.isPending}
        submit="I looked at it"
      >
        <Field name="torqued" label="Torqued, by the manual">
          <Input placeholder="upper and lower bolt, 48 N·m" />
        </Field>
        <Field name="username" label="Who looked" need="Say who looked.">
          <Input autoComplete="off" />
        </Field>
        <Field name="password" label="PIN or password" need="Type the PIN or password.">
          <Input.Password autoComplete="off" />
        </Field>
      </Ask>
    </Dialog>
  );
}

const NEXT = { out: "Take it back", back: "Fit it again" } as const;

/** A part that went out, as it stands. */
function Tag({ line }: { line: Line }) {
  return (
    <div className={clsx(awayCss.tag, line.overdue && awayCss.late)}>
      <b className={awayCss.code} aria-label={`Tag ${line.tag}`}>
        {line.tag}
      </b>
      <div>
        <p>
          <b>
            {line.state === "out" ? "At " : "Was at "}
            {line.to}
          </b>
          {line.qualified && `, qualified by ${line.qualified}`}: {line.wanted}
        </p>
        <p className={textCss.soft}>
          Out {dayWords(line.out_on)}, by {line.by}.{" "}
          {line.state === "out" && `The bike waits ${line.waits}.`}
        </p>
        {line.state === "out" && (
          <p className={line.overdue ? awayCss.over : undefined}>
            {line.overdue ? "Overdue: due back " : "Back by "}
            {dayWords(line.back_by)}
          </p>
        )}
        {line.back && (
          <p>
            Back {dayWords(line.back_on)}: {line.back}
          </p>
        )}
        {line.fitted && <p className={textCss.soft}>Fitted: {line.fitted}</p>}
      </div>
    </div>
  );
}

/** What is said next: it leaves, it is back, it is fitted. */
function Says({ newest, ...more }: DialogProps & { newest: Line | null }) {
  if (newest === null) return <HandOut {...more} />;
  const Next = newest.state === "out" ? ComesBack : FitAgain;
  return <Next {...more} line={newest} />;
}

/** What only a specialist opens: where it is, and the one thing to say next about it. */
export function Away({
  bike,
  reservoir,
  mayWork,
}: {
  bike: string;
  reservoir: Shape["ReservoirPage"];
  mayWork: boolean;
}) {
  const { key, label } = reservoir.glass;
  const [open, setOpen] = useState(false);
  const { data: told } = useQuery({
    queryKey: keys.away(bike, key),
    queryFn: () =>
      taken(
        api.GET("/api/bikes/{bike_id}/away/{reservoir}/", {
          params: { path: { bike_id: bike, reservoir: key } },
        }),
      ),
  });
  if (!told) return null;
  const [newest] = told.lines;
  const under = newest && newest.state !== "fitted" ? newest : null;
  const what = label.includes(told.part) ? label : `${label}, ${told.part}`;
  const more = { bike, label: what, told, close: () => setOpen(false) };
  return (
    <div className={awayCss.away}>
      {told.lines.map((line) => (
        <Tag key={line.id} line={line} />
      ))}
      {mayWork && (
        <Button
          type={under ? "primary" : "default"}
          className={controlsCss.wideChoice}
          onClick={() => setOpen(true)}
        >
          {under ? NEXT[under.state as keyof typeof NEXT] : `Hand the ${told.part} out`}
        </Button>
      )}
      {open && <Says newest={under} {...more} />}
    </div>
  );
}
