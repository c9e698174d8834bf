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
      void client.invalidateQueries({ queryKey: ["plan"] });
    },
    onError: () => void client.invalidateQueries({ queryKey: ["stock"] }),
  });
}

const put = (body: Shape["BottleFormRequest"]) => () =>
  taken(api.PUT("/api/shelf/bottles/", { body }));

/** A bottle drawn as full as it is, with what is left in it to correct. */
function Bottle({ bottle }: { bottle: Shape["BottleLine"] }) {
  const change = useStockChange();
  const [left, setLeft] = useState<string | null>(null);
  const { id, fluid, version, size, opened_on } = bottle;
  const form = { id, fluid, version, size, opened_on };
  function write() {
    if (left !== null && !change.isPending) {
      change.mutate(put({ ...form, left }), { onSuccess: () => setLeft(null) });
    }
  }
  return (
    <li className="stock-bottle">
      <span className="stock-glass" aria-hidden>
        <span style={{ height: `${bottle.share * 100}%` }} />
      </span>
      <Input
        aria-label={`Left in the ${size} bottle`}
        value={left ?? bottle.left}
        onChange={(event) => setLeft(event.target.value)}
        onPressEnter={write}
        onBlur={write}
      />
      <span className="soft">
        of {size}
        {opened_on ? `, opened ${opened_on}` : ", sealed"}
      </span>
      <Button size="small" type="text" onClick={() => change.mutate(put({ ...form, gone: true }))}>
        Gone
      </Button>
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
    </div>
  );
}

/** Seals and filters in the drawer, counted by what the spec sheets call them. */
export function Drawer({ mayWork }: { mayWork: boolean }) {
  const stock = useStock();
  const change = useStockChange();
  const [name, setName] = useState("");
  const [count, setCount] = useState("");
  const seals = stock.data?.seals ?? [];
  const write = (seal: Shape["SealFormRequest"]) =>
    change.mutate(() => taken(api.PUT("/api/shelf/seals/", { body: seal })), {
      onSuccess: () => {
        setName("");
        setCount("");
      },
    });
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
            const seen = seals.find((seal) => seal.name === name.trim())?.count ?? null;
            write({ name, count, seen });
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
        </form>
      )}
      <Refused said={change.error?.message} />
    </section>
  );
}
