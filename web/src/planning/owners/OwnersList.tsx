import { Button, Popconfirm, Table, type TableColumnsType } from "antd";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, taken, type Shape } from "../../api/client";
import { keys } from "../../api/keys";
import { Refused } from "../../ui/Refused";
import listsCss from "../../ui/lists.module.css";
import ownersCss from "../owners.module.css";
import textCss from "../../ui/text.module.css";
import wideCss from "../../ui/wide.module.css";

type Owner = Shape["Owner"];

/** Hands a document over as a file. */
function asFile(name: string, document_: object) {
  const url = URL.createObjectURL(
    new Blob([JSON.stringify(document_, null, 1)], { type: "application/json" }),
  );
  const link = Object.assign(document.createElement("a"), { href: url, download: name });
  link.click();
  URL.revokeObjectURL(url);
}

function useOwners() {
  const client = useQueryClient();
  const { data } = useQuery({
    queryKey: keys.owners,
    queryFn: () => taken(api.GET("/api/owners/")),
  });
  const erase = useMutation({
    mutationFn: (body: Shape["ErasureRequest"]) =>
      taken(api.POST("/api/owners/erasure/", { body })),
    onSuccess: () => {
      for (const queryKey of [keys.owners, keys.wards, keys.bikes]) {
        void client.invalidateQueries({ queryKey });
      }
    },
  });
  const giveOut = useMutation({
    mutationFn: (body: Shape["OwnersNameRequest"]) =>
      taken(api.POST("/api/owners/data/", { body })),
    onSuccess: (held) => asFile("owner.json", held),
  });
  return { data, erase, giveOut };
}

/** Whose bikes are here: what is held about somebody is given out as a file, or forgotten. */
export function OwnersList() {
  const { data, erase, giveOut } = useOwners();
  if (!data) return null;
  const columns: TableColumnsType<Owner> = [
    { title: "Owner", dataIndex: "name", render: (name: string) => <b>{name}</b> },
    { title: "Bikes", dataIndex: "bikes", className: textCss.tabular },
    {
      title: "",
      align: "right",
      render: (_, { name }) => (
        <div className={ownersCss.rowTools}>
          <Button
            onClick={() => giveOut.mutate({ id: crypto.randomUUID(), name })}
            aria-label={`Give out what is held about ${name}`}
          >
            Give it out
          </Button>
          <Popconfirm
            title="Name, plate and notes go for good. Services and findings stay with the machine."
            okText="Forget them"
            cancelText="Leave it"
            onConfirm={() => erase.mutate({ id: crypto.randomUUID(), name })}
          >
            <Button danger aria-label={`Forget ${name}`}>
              Forget
            </Button>
          </Popconfirm>
        </div>
      ),
    },
  ];
  return (
    <section aria-label="Owners">
      <p className={textCss.soft}>
        Backups made before still hold what was forgotten, until they are thinned out.
      </p>
      <Refused said={(erase.error ?? giveOut.error)?.message} />
      <div className={wideCss.workshopWide}>
        <Table<Owner>
          className={listsCss.lists}
          columns={columns}
          dataSource={data}
          rowKey="name"
          pagination={{ pageSize: 50, hideOnSinglePage: true }}
        />
      </div>
    </section>
  );
}
