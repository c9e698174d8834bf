import { Button, Input, Popconfirm, Table, type TableColumnsType } from "antd";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { api, taken, type Shape, gone } from "../../api/client";
import { another } from "../../api/hooks";
import { keys } from "../../api/keys";
import { Ask, Field } from "../../ui/Ask";
import { Dialog } from "../../ui/Dialog";
import { Refused } from "../../ui/Refused";
import listsCss from "../../ui/lists.module.css";
import textCss from "../../ui/text.module.css";
import wideCss from "../../ui/wide.module.css";
import workshopCss from "../workshop.module.css";

type Line = Shape["TabletLine"];

/** Lets this very tablet belong to a bench; who does it is signed out of it with that. */
function PairDialog({ close }: { close: () => void }) {
  const client = useQueryClient();
  const go = useNavigate();
  const [id] = useState(() => crypto.randomUUID());
  const pair = useMutation({
    mutationFn: (body: Shape["NewTabletRequest"]) => taken(api.POST("/api/tablets/", { body })),
    onSuccess: async (session) => {
      void go("/");
      await another(client, session);
    },
  });
  return (
    <Dialog open title="Pair this tablet" footer={null} onCancel={close}>
      <p>
        It belongs to its bench from then on: people tap their name and their PIN. You are signed
        out of it.
      </p>
      <Ask
        initial={{ name: "" }}
        send={(given) => pair.mutate({ ...given, id })}
        error={pair.error}
        pending={pair.isPending}
        submit="Pair it"
      >
        <Field name="name" label="Where it belongs" need="Say where it belongs.">
          <Input maxLength={60} placeholder="Bench 2, left" />
        </Field>
      </Ask>
    </Dialog>
  );
}

const COLUMNS: TableColumnsType<Line> = [
  {
    title: "Belongs to",
    dataIndex: "name",
    render: (name: string, { here }) => (
      <>
        <b>{name}</b> {here && "(this one)"}
      </>
    ),
  },
  { title: "Paired by", dataIndex: "paired_by", responsive: ["md"] },
  { title: "On", dataIndex: "paired_on", className: textCss.tabular, responsive: ["sm"] },
];

function Unpair({ name, unpair }: { name: string; unpair: () => void }) {
  return (
    <Popconfirm
      title="Nobody can tap in there any more, and who is in is out."
      okText="Unpair it"
      cancelText="Leave it"
      onConfirm={unpair}
    >
      <Button aria-label={`Unpair ${name}`}>Unpair</Button>
    </Popconfirm>
  );
}

function useTablets() {
  const client = useQueryClient();
  const { data } = useQuery({
    queryKey: keys.tablets,
    queryFn: () => taken(api.GET("/api/tablets/")),
  });
  const unpair = useMutation({
    mutationFn: (tablet_id: string) =>
      gone(api.DELETE("/api/tablets/{tablet_id}/", { params: { path: { tablet_id } } })),
    onSettled: () => void client.invalidateQueries({ queryKey: keys.tablets }),
  });
  return { data, unpair };
}

/** The benches' tablets: a lead pairs the one in hand, and unpairs any. */
export function TabletList() {
  const [pairing, setPairing] = useState(false);
  const { data, unpair } = useTablets();
  if (!data) return null;
  const columns: TableColumnsType<Line> = [
    ...COLUMNS,
    {
      title: "",
      align: "right",
      render: (_, { id, name }) => <Unpair name={name} unpair={() => unpair.mutate(id)} />,
    },
  ];
  return (
    <section aria-label="Tablets">
      <div className={workshopCss.tabHead}>
        <p className={textCss.soft}>
          On a paired tablet people tap their name and a PIN. One that is lost is unpaired here.
        </p>
        {!data.some(({ here }) => here) && (
          <Button type="primary" size="large" onClick={() => setPairing(true)}>
            Pair this tablet
          </Button>
        )}
      </div>
      <Refused said={unpair.error?.message} />
      <div className={wideCss.workshopWide}>
        <Table<Line>
          className={listsCss.lists}
          columns={columns}
          dataSource={data}
          rowKey="id"
          pagination={false}
          locale={{ emptyText: "No tablet belongs to a bench yet." }}
        />
      </div>
      {pairing && <PairDialog close={() => setPairing(false)} />}
    </section>
  );
}
