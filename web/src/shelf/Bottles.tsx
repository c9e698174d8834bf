import { Button, Input } from "antd";
import { useState } from "react";
import type { Shape } from "../api/client";
import { dayWords } from "../ui/days";
import { Refused } from "../ui/Refused";
import { typedOn } from "../ui/typedOn";
import { Ledger } from "./Ledger";
import { put, take, useStock, useStockChange } from "./stock";
import shelfCss from "./shelf.module.css";
import textCss from "../ui/text.module.css";

type Line = Shape["BottleLine"];

/** A bottle drawn as full as it is. */
export function BottleGlass({ share }: { share: number }) {
  return (
    <span className={shelfCss.stockGlass} aria-hidden>
      <span style={{ height: `${share * 100}%` }} />
    </span>
  );
}

/** What is left in a bottle, or what is taken out of it, while it is typed. */
function useBottle(bottle: Line) {
  const change = useStockChange();
  const [left, setLeft] = useState<string | null>(null);
  const [used, setUsed] = useState<string | null>(null);
  const [batch, setBatch] = useState<string | null>(null);
  const { id, fluid, version, size, opened_on } = bottle;
  const done = {
    onSuccess: () => {
      setLeft(typedOn(left, null));
      setUsed(typedOn(used, null));
      setBatch(typedOn(batch, null));
    },
  };
  const write = () => {
    if (change.isPending) return;
    if (used?.trim()) change.mutate(take({ id, used }), done);
    else if (isChanged(bottle, left, batch)) {
      // what nobody touched stays as it is: what is shown of it is rounded
      const found = { left: left ?? "", batch: batch?.trim() ?? "" };
      change.mutate(put({ id, fluid, version, size, opened_on, ...found }), done);
    }
  };
  const gone = () => change.mutate(take({ id, used: "", gone: true }));
  return { change, left, setLeft, used, setUsed, batch, setBatch, write, gone };
}

function isChanged(bottle: Line, left: string | null, batch: string | null): boolean {
  const named = Boolean(batch?.trim()) && batch?.trim() !== bottle.batch;
  return named || (left !== null && left !== bottle.left);
}

type Typing = ReturnType<typeof useBottle>;

/** The one button that belongs to what is being done: use some, write it down, or leave it. */
function Act({ typing, bottle }: { typing: Typing; bottle: Line }) {
  const { left, used, batch, setUsed, write } = typing;
  if (used?.trim() || isChanged(bottle, left, batch)) {
    return (
      <Button type="primary" onClick={write}>
        Write it down
      </Button>
    );
  }
  return used === null ? (
    <Button onClick={() => setUsed("")}>Use some</Button>
  ) : (
    <Button onClick={() => setUsed(null)}>Leave it</Button>
  );
}

/** A bottle drawn as full as it is, with what is left in it to correct; `count` of them stand there alike,
 * and what is done is done to one of them. */
function Bottle({ bottle, count }: { bottle: Line; count: number }) {
  const typing = useBottle(bottle);
  const { change, left, setLeft, used, setUsed, batch, setBatch, write, gone } = typing;
  const { size, opened_on } = bottle;
  return (
    <li className={shelfCss.stockBottle}>
      <span className={shelfCss.stockCount}>
        <BottleGlass share={bottle.share} />
        {count > 1 && <b>{count} ×</b>}
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
      <span className={textCss.soft}>
        {used === null ? `${count > 1 ? "each " : ""}of ${size}` : `out of ${bottle.left}`}
        {opened_on ? `, opened ${dayWords(opened_on)}` : ", sealed"}
      </span>
      <Input
        aria-label={`Batch of the ${size} bottle`}
        placeholder="batch"
        maxLength={40}
        value={batch ?? bottle.batch}
        onChange={(event) => setBatch(event.target.value)}
        onPressEnter={write}
        onBlur={write}
      />
      <span className={shelfCss.stockActs}>
        <Act typing={typing} bottle={bottle} />
        <Button type="text" onClick={gone}>
          Gone
        </Button>
      </span>
      <Refused said={change.error?.message} />
    </li>
  );
}

/** Bottles that cannot be told from each other, as one with their count. */
function alike(bottles: Line[]): { bottle: Line; count: number }[] {
  const known = new Map<string, { bottle: Line; count: number }>();
  for (const bottle of bottles) {
    const { size, left, batch, opened_on } = bottle;
    const key = JSON.stringify([size, left, batch, opened_on]);
    const found = known.get(key);
    if (found) found.count += 1;
    else known.set(key, { bottle, count: 1 });
  }
  return [...known.values()];
}

/** The bottles of one fluid that stand on the shelf. */
export function Bottles({ fluid, size }: { fluid: number; size: string }) {
  const stock = useStock();
  const change = useStockChange();
  const own = (stock.data?.bottles ?? []).filter((bottle) => bottle.fluid === fluid);
  return (
    <div className={shelfCss.stock}>
      <h3>Standing there</h3>
      <ul>
        {alike(own).map(({ bottle, count }) => (
          <Bottle key={bottle.id} bottle={bottle} count={count} />
        ))}
      </ul>
      {own.length === 0 && <p className={textCss.soft}>None. It would have to be bought.</p>}
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
