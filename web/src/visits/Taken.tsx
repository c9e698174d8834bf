import { useQuery } from "@tanstack/react-query";
import { Checkbox, Input } from "antd";
import { api, taken } from "../api/client";
import { keys } from "../api/hooks";
import type { components } from "../api/schema";
import type { Sheet } from "./outbox";
import takenCss from "./taken.module.css";

type Line = components["schemas"]["TakenLine"];
export type TakenOff = components["schemas"]["TakenOffRequest"];

/** What was changed by hand of what is taken off the shelf: the amount, or null where it stays there. */
export type Changed = Record<string, string | null>;

/** What a finished visit took, as it is looked over before the signature. */
export function useTaken({ id: visit, tasks }: Sheet) {
  return useQuery({
    // whatever is put right meanwhile is counted anew
    queryKey: keys.taken(visit, tasks.map(({ added }) => added).join()),
    gcTime: 0,
    queryFn: () =>
      taken(api.GET("/api/visits/{visit_id}/taken/", { params: { path: { visit_id: visit } } })),
  });
}

const amountOf = (line: Line, changed: Changed) =>
  line.what in changed ? changed[line.what] : line.amount;

/** What goes off the shelf with the signature. */
export function takenOff(found: ReturnType<typeof useTaken>["data"], changed: Changed): TakenOff[] {
  const off = (lines: Line[], as: "bottle" | "part") =>
    lines.flatMap((line) => {
      const amount = amountOf(line, changed);
      return amount == null ? [] : [{ [as]: line.what, amount }];
    });
  return found ? [...off(found.bottles, "bottle"), ...off(found.parts, "part")] : [];
}

interface RowProps {
  line: Line;
  changed: Changed;
  change: (changed: Changed) => void;
}

function Row({ line, changed, change }: RowProps) {
  const amount = amountOf(line, changed);
  const say = (now: string | null) => change({ ...changed, [line.what]: now });
  return (
    <li className={takenCss.line}>
      <Checkbox
        checked={amount !== null}
        onChange={({ target }) => say(target.checked ? line.amount : null)}
      >
        {line.words}
      </Checkbox>
      <Input
        aria-label={`How much: ${line.words}`}
        value={amount ?? ""}
        disabled={amount === null}
        maxLength={100}
        onChange={({ target }) => say(target.value)}
      />
      <span>{amount === line.amount && `keeps ${line.keeps}`}</span>
    </li>
  );
}

/** One card sums up what the visit took: off the shelf, unless somebody says otherwise. */
export function FromTheShelf({
  sheet,
  changed,
  change,
}: {
  sheet: Sheet;
  changed: Changed;
  change: (changed: Changed) => void;
}) {
  const { data } = useTaken(sheet);
  if (!data || data.bottles.length + data.parts.length + data.short.length === 0) return null;
  return (
    <section className={takenCss.card} aria-label="Off the shelf">
      <h2>Off the shelf</h2>
      <ul>
        {[...data.bottles, ...data.parts].map((line) => (
          <Row key={line.what} line={line} changed={changed} change={change} />
        ))}
      </ul>
      {data.short.map((sentence) => (
        <p key={sentence}>{sentence}</p>
      ))}
    </section>
  );
}
