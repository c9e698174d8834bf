import { Button } from "antd";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { keep } from "../api/keep";
import { api, taken, type Shape } from "../api/client";
import { keys } from "../api/hooks";
import { Dialog } from "../ui/Dialog";
import { Refused } from "../ui/Refused";
import { useOffers, type Offer } from "./offers";
import type { Sheet } from "./outbox";
import type { Task } from "./sheet";
import benchCss from "./bench.module.css";
import textCss from "../ui/text.module.css";

/** A change of what the visit consists of; the answer is the visit as it stands then. */
function useVisitChange<Body>(visit: string, write: (body: Body) => Promise<Sheet>) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: write,
    onSuccess: async (answer) => {
      await keep(client, keys.visit(visit), answer);
      void client.invalidateQueries({ queryKey: keys.wards });
    },
  });
}

/** Taking a reservoir out again, while nothing of it has been opened. */
export function TakeOut({ visit, task }: { visit: string; task: Task }) {
  const change = useVisitChange(visit, () =>
    taken(
      api.DELETE("/api/visits/{visit_id}/tasks/{reservoir}/", {
        params: { path: { visit_id: visit, reservoir: task.key } },
      }),
    ),
  );
  return (
    <Button
      type="text"
      size="small"
      className={benchCss.takeOut}
      aria-label={`Take the ${task.label} out`}
      loading={change.isPending}
      onClick={() => change.mutate(undefined)}
    >
      not in this visit
    </Button>
  );
}

type Added = Shape["AddedTaskRequest"];

function Offered({
  offer,
  within,
  add,
}: {
  offer: Offer;
  /** It is part of the visit already: only its plug can have come out by mistake. */
  within: boolean;
  add: (added: Omit<Added, "entry">, opened: boolean) => void;
}) {
  const variant = offer.variants[0] ?? "";
  const added = { reservoir: offer.key, variant };
  return (
    <li className={benchCss.offer}>
      <b>{offer.label}</b>
      {!within && (
        <Button onClick={() => add(added, false)} aria-label={`Add the ${offer.label}`}>
          Add it
        </Button>
      )}
      {variant && (
        <Button onClick={() => add(added, true)} aria-label={`I opened this one: ${offer.label}`}>
          I opened this one
        </Button>
      )}
    </li>
  );
}

/** Taking another reservoir into the visit; also the one whose plug was opened by mistake. */
export function AddTask({ sheet }: { sheet: Sheet }) {
  const [open, setOpen] = useState(false);
  const offers = useOffers(sheet.bike.id);
  const within = sheet.tasks.map((task) => task.key);
  // of those in the visit, any whose plug is still in can have come out for another one's
  const closed = sheet.tasks.filter((task) => task.may_leave && task.variant).map(({ key }) => key);
  const others =
    offers.data?.filter(({ key }) => !within.includes(key) || closed.includes(key)) ?? [];
  const change = useVisitChange(sheet.id, (body: Added) =>
    taken(
      api.POST("/api/visits/{visit_id}/tasks/", {
        params: { path: { visit_id: sheet.id } },
        body,
      }),
    ),
  );
  if (others.length === 0) return null;
  return (
    <>
      <Button block onClick={() => setOpen(true)}>
        Another reservoir, or a wrong plug
      </Button>
      <Dialog
        open={open}
        title="Another reservoir"
        footer={null}
        onCancel={() => setOpen(false)}
        width={560}
      >
        <p className={textCss.soft}>
          Where the wrong plug came out, say so: it is drained, read and filled with the others.
        </p>
        <ul className={benchCss.offers}>
          {others.map((offer) => (
            <Offered
              key={offer.key}
              offer={offer}
              within={within.includes(offer.key)}
              add={(added, opened) =>
                change.mutate(
                  { ...added, entry: opened ? crypto.randomUUID() : "" },
                  { onSuccess: () => setOpen(false) },
                )
              }
            />
          ))}
        </ul>
        <Refused said={change.error?.message} />
      </Dialog>
    </>
  );
}
