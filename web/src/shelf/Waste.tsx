import { clsx } from "clsx";
import { Button, Input } from "antd";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { keep } from "../api/keep";
import { api, taken, type Shape } from "../api/client";
import { keys } from "../api/keys";
import { dayWords } from "../ui/days";
import { Refused } from "../ui/Refused";
import { typedOn } from "../ui/typedOn";
import { BottleGlass } from "./Bottles";
import shelfCss from "./shelf.module.css";
import textCss from "../ui/text.module.css";

type Row = Shape["WasteRow"];
type Written = Omit<Shape["WasteFormRequest"], "id">;

const LATEST = 2;
const EMPTY = { amount: "", note: "" };

function useWrite() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: Shape["WasteFormRequest"]) => taken(api.POST("/api/shelf/waste/", { body })),
    onSuccess: (waste) => keep(client, keys.waste, waste),
  });
}

/** What is done to the container by hand: what a visit lets out comes by itself as it is signed. */
function ByHand() {
  const write = useWrite();
  const [typed, setTyped] = useState(EMPTY);
  // until it is written it keeps its id: what was lost on the way is not written twice
  const [id, setId] = useState(() => crypto.randomUUID());
  const say = (kind: Written["kind"]) =>
    write.mutate(
      { id, kind, ...typed },
      {
        onSuccess: () => {
          setTyped(typedOn(typed, EMPTY));
          setId(crypto.randomUUID());
        },
      },
    );
  const type = (more: Partial<typeof EMPTY>) => setTyped({ ...typed, ...more });
  return (
    <div className={shelfCss.wasteForm}>
      <Input
        aria-label="How much used oil"
        placeholder="38 l"
        maxLength={100}
        value={typed.amount}
        onChange={(event) => type({ amount: event.target.value })}
      />
      <Input
        aria-label="Who took it and their slip, or where it comes from"
        placeholder="who took it, slip"
        maxLength={120}
        value={typed.note}
        onChange={(event) => type({ note: event.target.value })}
      />
      <Button disabled={write.isPending} onClick={() => say("collected")}>
        Collected
      </Button>
      <Button disabled={write.isPending} onClick={() => say("added")}>
        Poured in
      </Button>
      <Button disabled={write.isPending} onClick={() => say("container")}>
        Container put there
      </Button>
      <Button disabled={write.isPending} onClick={() => say("counted")}>
        Found in it
      </Button>
      <Refused said={write.error?.message} />
    </div>
  );
}

function Happened({ row }: { row: Row }) {
  return (
    <li>
      <b className={textCss.tabular}>{row.amount}</b> {row.kind}
      {row.note && `, ${row.note}`}
      <span className={clsx(textCss.soft, shelfCss.shelfLabel)}>
        {dayWords(row.on)}, {row.by}
        {row.slip && (
          <>
            {" · "}
            <a
              className={textCss.tallLink}
              href={`/api/shelf/waste/${row.id}/slip.pdf`}
              target="_blank"
              rel="noreferrer"
            >
              Print the slip
            </a>
          </>
        )}
      </span>
    </li>
  );
}

/** The container of used oil: what lies in it, where it came from, and the slip for who takes it. */
export function Waste({ mayWork }: { mayWork: boolean }) {
  const { data } = useQuery({
    queryKey: keys.waste,
    queryFn: () => taken(api.GET("/api/shelf/waste/")),
  });
  const [all, setAll] = useState(false);
  if (!data) return null;
  return (
    <section className={clsx(shelfCss.shelfPaper, shelfCss.drawer)} aria-label="Used oil">
      <h2>Used oil</h2>
      <p className={shelfCss.wasteLevel}>
        <BottleGlass share={Math.min(data.share ?? 0, 1)} />
        <b className={textCss.tabular}>{data.level}</b>
      </p>
      {data.full && (
        <p className={textCss.refusal} role="status">
          {data.full}
        </p>
      )}
      <ul className={shelfCss.wasteList}>
        {(all ? data.rows : data.rows.slice(0, LATEST)).map((row) => (
          <Happened key={row.id} row={row} />
        ))}
      </ul>
      {data.rows.length > LATEST && (
        <Button type="link" aria-expanded={all} onClick={() => setAll(!all)}>
          {all ? "Hide what happened" : "What happened"}
        </Button>
      )}
      {mayWork && <ByHand />}
      <p className={textCss.soft}>
        Coolant, brake fluid, filters and rags each apart, by local rules.
      </p>
    </section>
  );
}
