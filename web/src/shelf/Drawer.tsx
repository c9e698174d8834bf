import { clsx } from "clsx";
import { AutoComplete, Button, Input } from "antd";
import { useState } from "react";
import { Refused } from "../ui/Refused";
import { typedOn } from "../ui/typedOn";
import { Ledger } from "./Ledger";
import { count, useStock, useStockChange } from "./stock";
import shelfCss from "./shelf.module.css";
import textCss from "../ui/text.module.css";

const EMPTY = { name: "", count: "" };

/** Counting what is there, or writing down what was used. */
function Counting() {
  const stock = useStock();
  const change = useStockChange();
  const [typed, setTyped] = useState(EMPTY);
  const seals = stock.data?.seals ?? [];
  const write = (kind: "counted" | "used") => {
    const seen = seals.find((seal) => seal.name === typed.name.trim())?.count ?? null;
    change.mutate(count({ ...typed, kind, seen }), {
      onSuccess: () => setTyped(typedOn(typed, EMPTY)),
    });
  };
  return (
    <form
      className={shelfCss.drawerForm}
      onSubmit={(event) => {
        event.preventDefault();
        write("counted");
      }}
    >
      <AutoComplete
        aria-label="Seal"
        placeholder="crush washer 14 mm"
        value={typed.name}
        options={seals.map((seal) => ({ value: seal.name }))}
        showSearch={{ filterOption: true }}
        onChange={(name: string) => setTyped({ ...typed, name })}
      />
      <Input
        aria-label="How many"
        placeholder="6"
        value={typed.count}
        onChange={(event) => setTyped({ ...typed, count: event.target.value })}
      />
      <Button htmlType="submit">Count</Button>
      <Button onClick={() => write("used")}>Used</Button>
      <Refused said={change.error?.message} />
    </form>
  );
}

/** Seals and filters in the drawer, counted by what the spec sheets call them. */
export function Drawer({ mayWork }: { mayWork: boolean }) {
  const stock = useStock();
  const seals = stock.data?.seals ?? [];
  return (
    <section className={clsx(shelfCss.shelfPaper, shelfCss.drawer)} aria-label="In the drawer">
      <h2>In the drawer</h2>
      <ul>
        {seals.map((seal) => (
          <li key={seal.name}>
            <b className={textCss.tabular}>{seal.count}</b> {seal.name}
          </li>
        ))}
      </ul>
      {seals.length === 0 && <p className={textCss.soft}>Nothing counted yet.</p>}
      {mayWork && <Counting />}
      <Ledger />
    </section>
  );
}
