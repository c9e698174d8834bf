import { Button, Checkbox, Input, Table, type TableColumnsType } from "antd";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, gone, taken, type Shape } from "../../api/client";
import { keys } from "../../api/keys";
import { Ask, Field } from "../../ui/Ask";
import { Choice } from "../../ui/Choice";
import { Dialog } from "../../ui/Dialog";
import { Refused } from "../../ui/Refused";
import { WelcomeLink } from "./WelcomeLink";
import listsCss from "../../ui/lists.module.css";
import textCss from "../../ui/text.module.css";
import wideCss from "../../ui/wide.module.css";
import workshopCss from "../workshop.module.css";

type Line = Shape["PersonLine"];
type Link = Shape["WelcomeLink"];

type Given = Pick<Shape["People"], "qualifications" | "roles">;

/** What somebody is asked of a person, new or known. */
function Fields({ qualifications, roles }: Given) {
  return (
    <>
      <Field name="name" label="Name, as it stands on sheets" need="Type the name.">
        <Input maxLength={80} />
      </Field>
      <Field name="role" label="Role">
        <Choice
          options={roles.map(({ role, does }) => ({ value: role, label: `${role}: ${does}` }))}
        />
      </Field>
      <Field name="qualifications" label="Qualified for">
        <Checkbox.Group options={qualifications} className={workshopCss.qualifications} />
      </Field>
    </>
  );
}

function AddDialog({ given, close, handOver }: DialogProps) {
  const client = useQueryClient();
  const [id] = useState(() => crypto.randomUUID());
  const add = useMutation({
    mutationFn: (body: Shape["NewPersonRequest"]) => taken(api.POST("/api/people/", { body })),
    onSuccess: (link) => {
      void client.invalidateQueries({ queryKey: keys.people });
      handOver(link);
    },
  });
  const initial: Shape["NewPersonRequest"] = {
    id,
    username: "",
    name: "",
    role: "technician",
    qualifications: [],
  };
  return (
    <Dialog open title="Add somebody" footer={null} onCancel={close}>
      <Ask
        initial={initial}
        send={(given) => add.mutate({ ...given, id })}
        error={add.error}
        pending={add.isPending}
        submit="Add, and make the link"
      >
        <Field
          name="username"
          label="Name to sign in with"
          need="Type a short name in small letters."
        >
          <Input autoCapitalize="none" maxLength={40} />
        </Field>
        <Fields {...given} />
      </Ask>
    </Dialog>
  );
}

interface DialogProps {
  given: Given;
  close: () => void;
  handOver: (link: Link) => void;
}

function ClearSecond({ person, done }: { person: Line; done: () => void }) {
  const path = { person_id: person.id };
  const clear = useMutation({
    mutationFn: () => gone(api.DELETE("/api/people/{person_id}/second/", { params: { path } })),
    onSuccess: done,
  });
  return (
    <>
      <Button
        size="large"
        disabled={clear.isSuccess}
        loading={clear.isPending}
        onClick={() => clear.mutate()}
      >
        {clear.isSuccess ? "Second factor cleared" : "Clear their second factor"}
      </Button>
      <Refused said={clear.error?.message} />
    </>
  );
}

function ChangeDialog({ person, given, close, handOver }: DialogProps & { person: Line }) {
  const client = useQueryClient();
  const path = { person_id: person.id };
  const known = () => void client.invalidateQueries({ queryKey: keys.people });
  const change = useMutation({
    mutationFn: (body: Shape["ChangedPersonRequest"]) =>
      taken(api.PUT("/api/people/{person_id}/", { params: { path }, body })),
    onSuccess: () => {
      known();
      close();
    },
    onError: known,
  });
  const [act] = useState(() => crypto.randomUUID());
  const welcome = useMutation({
    mutationFn: () =>
      taken(
        api.PUT("/api/people/{person_id}/welcome/{act}/", { params: { path: { ...path, act } } }),
      ),
    onSuccess: handOver,
  });
  const { name, role, version, active } = person;
  const initial = { name, role: role as string, qualifications: person.qualifications };
  const send = (more: Partial<Shape["ChangedPersonRequest"]>) =>
    change.mutate({ ...initial, active, version, ...more });
  return (
    <Dialog open title={person.name} footer={null} onCancel={close}>
      <Ask
        initial={initial}
        send={(given) => send(given)}
        error={change.error}
        pending={change.isPending}
        submit="Save"
        beside={
          <>
            {active && (
              <Button size="large" onClick={() => welcome.mutate()}>
                New link for a password
              </Button>
            )}
            {person.second && <ClearSecond person={person} done={known} />}
            <Button size="large" danger={active} onClick={() => send({ active: !active })}>
              {active ? "End their access" : "Let them in again"}
            </Button>
          </>
        }
      >
        <Fields {...given} />
      </Ask>
      <Refused said={welcome.error?.message} />
    </Dialog>
  );
}

function stands({ active, waits, has_pin }: Line): string {
  if (!active) return "access ended";
  if (waits) return "has a link, no password yet";
  return has_pin ? "password and PIN" : "password";
}

const COLUMNS: TableColumnsType<Line> = [
  { title: "Name", dataIndex: "name", render: (name: string) => <b>{name}</b> },
  { title: "Signs in as", dataIndex: "username", responsive: ["md"] },
  { title: "Role", dataIndex: "role" },
  {
    title: "Qualified for",
    dataIndex: "qualifications",
    responsive: ["lg"],
    render: (held: string[]) => held.join(", "),
  },
  { title: "Comes in by", responsive: ["md"], render: (_, person) => stands(person) },
];

/** Who works here: a lead adds people, changes what they may, and ends their access. */
export function PeopleList() {
  const { data } = useQuery({
    queryKey: keys.people,
    queryFn: () => taken(api.GET("/api/people/")),
  });
  const [open, setOpen] = useState<Line | "new" | Link | null>(null);
  if (!data) return null;
  const close = () => setOpen(null);
  const columns: TableColumnsType<Line> = [
    ...COLUMNS,
    {
      title: "",
      align: "right",
      render: (_, person) => (
        <Button onClick={() => setOpen(person)} aria-label={`Change ${person.name}`}>
          Change
        </Button>
      ),
    },
  ];
  const shared = { given: data, close, handOver: setOpen };
  return (
    <section aria-label="People">
      <div className={workshopCss.tabHead}>
        <p className={textCss.soft}>
          Nobody is deleted: what they did keeps their name. Whose access has ended is out at once.
        </p>
        <Button type="primary" size="large" onClick={() => setOpen("new")}>
          Add somebody
        </Button>
      </div>
      <div className={wideCss.workshopWide}>
        <Table<Line>
          className={listsCss.lists}
          columns={columns}
          dataSource={data.people}
          rowKey="id"
          rowClassName={({ active }) => (active ? "" : (textCss.soft ?? ""))}
          pagination={false}
        />
      </div>
      {open === "new" && <AddDialog {...shared} />}
      {open && open !== "new" && "path" in open && <WelcomeLink link={open} close={close} />}
      {open && open !== "new" && "username" in open && <ChangeDialog {...shared} person={open} />}
    </section>
  );
}
