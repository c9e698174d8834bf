import { Button, Input } from "antd";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, taken, type Shape } from "../api/client";
import { Refused } from "../workshop/Refused";

function useStock() {
  return useQuery({ queryKey: ["stock"], queryFn: () => taken(api.GET("/api/shelf/stock/")) });
}

function useStockChange() {
  const client = useQueryClient();
  return useMutation<Shape["Stock"], Error, () => Promise<Shape["Stock"]>>({
    mutationFn: (ask) => ask(),
    onSuccess: (stock) => {
      client.setQueryData(["stock"], stock);
      void client.invalidateQueries({ queryKey: ["stock", "ledger"] });
      void client.invalidateQueries({ queryKey: ["plan"] });
    },
    onError: () => void client.invalidateQueries({ queryKey: ["stock"] }),
  });
}

type Written<T> = Omit<T, "act">;

/** What is done to the stock has an id of its own: sent twice, it is done once. */
const put = (bottle: Written<Shape["BottleFormRequest"]>) => {
  const body = { ...bottle, act: crypto.randomUUID() };
  return () => taken(api.PUT("/api/shelf/bottles/", { body }));
};

const take = (use: Written<Shape["BottleUseRequest"]>) => {
  const body = { ...use, act: crypto.randomUUID() };
  return () => taken(api.POST("/api/shelf/bottles/", { body }));
};

/** A bottle drawn as full as it is, with what is left in it to correct. */
function Bottle({ bottle }: { bottle: Shape["BottleLine"] }) {
  const change = useStockChange();
  const [left, setLeft] = useState<string | null>(null);
  const [used, setUsed] = useState<string | null>(null);
  const { id, fluid, version, size, opened_on } = bottle;
  function write() {
    if (change.isPending) return;
    const done = {
      onSuccess: () => {
        setLeft(null);
        setUsed(null);
      },
    };
    if (used?.trim()) change.mutate(take({ id, used }), done);
    else if (left !== null) {
      change.mutate(put({ id, fluid, version, size, opened_on, left }), done);
    }
  }
  return (
    <li className="stock-bottle">
      <span className="stock-glass" aria-hidden>
        <span style={{ height: `${bottle.share * 100}%` }} />
      </span>
      {used === null ? (
        <Input
          aria-label={`Left in the ${size} bottle`}
          value={left ?? bottle.left}
          onChange={(event) => setLeft(event.target.value)}
          onPressEnter={write}
          onBlur={write}
        />
      ) : (
        <Input
          aria-label={`Used from the ${size} bottle`}
          placeholder="used, 250 ml"
          autoFocus
          value={used}
          onChange={(event) => setUsed(event.target.value)}
          onPressEnter={write}
        />
      )}
      <span className="soft">
        {used === null ? `of ${size}` : `out of ${bottle.left}`}
        {opened_on ? `, opened ${opened_on}` : ", sealed"}
      </span>
      <span className="stock-acts">
        <Button
          onClick={() => (used === null ? setUsed("") : used.trim() ? write() : setUsed(null))}
        >
          {used === null ? "Use some" : used.trim() ? "Write it down" : "Leave it"}
        </Button>
        <Button type="text" onClick={() => change.mutate(take({ id, used: "", gone: true }))}>
          Gone
        </Button>
      </span>
      <Refused said={change.error?.message} />
    </li>
  );
}

/** The bottles of one fluid that stand on the shelf. */
export function Bottles({ fluid, size }: { fluid: number; size: string }) {
  const stock = useStock();
  const change = useStockChange();
  const own = (stock.data?.bottles ?? []).filter((bottle) => bottle.fluid === fluid);
  return (
    <div className="stock">
      <h3>Standing there</h3>
      <ul>
        {own.map((bottle) => (
          <Bottle key={bottle.id} bottle={bottle} />
        ))}
      </ul>
      {own.length === 0 && <p className="soft">None. It would have to be bought.</p>}
      <Button
        onClick={() =>
          change.mutate(put({ id: crypto.randomUUID(), fluid, version: 0, size, left: "" }))
        }
      >
        Put a sealed {size} bottle there
      </Button>
      <Refused said={change.error?.message} />
      <Ledger fluid={fluid} />
    </div>
  );
}

/** What happened to the bottles of a fluid, or to everything: who, when, how much. */
function Ledger({ fluid }: { fluid?: number }) {
  const [open, setOpen] = useState(false);
  const ledger = useQuery({
    queryKey: ["stock", "ledger", fluid ?? "all"],
    queryFn: () => taken(api.GET("/api/shelf/ledger/", { params: { query: { fluid } } })),
    enabled: open,
  });
  return (
    <>
      <Button type="link" aria-expanded={open} onClick={() => setOpen(!open)}>
        {open ? "Hide what happened" : "What happened"}
      </Button>
      {open && (
        <table className="spec ledger">
          <tbody>
            {ledger.data?.lines.map((line) => (
              <tr key={line.id}>
                <td className="tabular">{line.on}</td>
                <td>{line.kind}</td>
                <td className="tabular strong">{line.change}</td>
                <td>{line.what}</td>
                <td className="soft">{line.by}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {open && <Refused said={ledger.error?.message} />}
    </>
  );
}

/** Seals and filters in the drawer, counted by what the spec sheets call them. */
export function Drawer({ mayWork }: { mayWork: boolean }) {
  const stock = useStock();
  const change = useStockChange();
  const [name, setName] = useState("");
  const [count, setCount] = useState("");
  const seals = stock.data?.seals ?? [];
  const write = (kind: "counted" | "used") => {
    const seen = seals.find((seal) => seal.name === name.trim())?.count ?? null;
    const body = { act: crypto.randomUUID(), name, count, kind, seen };
    change.mutate(() => taken(api.PUT("/api/shelf/seals/", { body })), {
      onSuccess: () => {
        setName("");
        setCount("");
      },
    });
  };
  return (
    <section className="drawer" aria-label="In the drawer">
      <h2>In the drawer</h2>
      <ul>
        {seals.map((seal) => (
          <li key={seal.name}>
            <b className="tabular">{seal.count}</b> {seal.name}
          </li>
        ))}
      </ul>
      {mayWork && (
        <form
          className="drawer-form"
          onSubmit={(event) => {
            event.preventDefault();
            write("counted");
          }}
        >
          <Input
            aria-label="Seal"
            placeholder="crush washer 14 mm"
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
          <Input
            aria-label="How many"
            placeholder="6"
            value={count}
            onChange={(event) => setCount(event.target.value)}
          />
          <Button htmlType="submit">Count</Button>
          <Button onClick={() => write("used")}>Used</Button>
        </form>
      )}
      <Refused said={change.error?.message} />
      <Ledger />
    </section>
  );
}
