import { useMutation, useQueryClient } from "@tanstack/react-query";
import { Button, Input } from "antd";
import { useState } from "react";
import { Link } from "react-router";
import { keep } from "../api/keep";
import { api, taken } from "../api/client";
import { keys, useMay } from "../api/hooks";
import { momentWords } from "../ui/days";
import type { Sheet } from "./outbox";
import { Written } from "./Written";
import { FromTheShelf, takenOff, useTaken, type Changed, type TakenOff } from "./Taken";
import { Refused } from "../ui/Refused";
import asksCss from "./asks/asks.module.css";
import benchCss from "./bench.module.css";
import controlsCss from "../ui/controls.module.css";
import textCss from "../ui/text.module.css";

/** What stopped the visit, and who said what of it. */
function Answered({ sheet }: { sheet: Sheet }) {
  if (sheet.answered.length === 0) return null;
  return (
    <ul className={benchCss.answered} aria-label="What stopped it">
      {sheet.answered.map((one) => (
        <li key={`${one.step} ${one.at}`}>
          {one.text} <b>{one.reason}</b>{" "}
          <span className={textCss.soft}>
            {one.by}, {momentWords(one.at)}
          </span>
        </li>
      ))}
    </ul>
  );
}

/** What the visit was for and how the bike felt, before and after. */
function Owner({ sheet }: { sheet: Sheet }) {
  const said: [string, string][] = [
    ["Asked for", sheet.wants],
    ["On the ride in", sheet.ride_in],
    ["On the ride out", sheet.ride_out],
  ];
  return said.map(([what, words]) => {
    return (
      words && (
        <p key={what}>
          <b>{what}:</b> {words}
        </p>
      )
    );
  });
}

interface Signature {
  username: string;
  password: string;
  ride_out: string;
}

type Signed = Signature & { taken: TakenOff[] };

function useSign(visit: string, settled: () => void) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: Signed) =>
      taken(
        api.POST("/api/visits/{visit_id}/signature/", {
          params: { path: { visit_id: visit } },
          body,
        }),
      ),
    onSettled: settled,
    onSuccess: async (answer) => {
      await keep(client, keys.visit(visit), answer);
      // ward, bike, plans, calendar and shelf all tell of it
      void client.invalidateQueries({ predicate: (one) => one.queryKey[0] !== keys.session[0] });
    },
  });
}

function CounterSign({ lead, change }: { lead: Signature; change: (lead: Signature) => void }) {
  return (
    <fieldset className={benchCss.countersign}>
      <legend>A lead looks it over and signs beside you</legend>
      <Input
        aria-label="Lead's name"
        placeholder="name"
        value={lead.username}
        onChange={(event) => change({ ...lead, username: event.target.value })}
      />
      <Input.Password
        aria-label="Lead's password"
        placeholder="password"
        autoComplete="off"
        value={lead.password}
        onChange={(event) => change({ ...lead, password: event.target.value })}
      />
    </fieldset>
  );
}

/** The signature; whoever does not stand alone signs with a lead beside. */
function Signing({ sheet, waiting }: { sheet: Sheet; waiting: number }) {
  const alone = useMay("stand alone");
  const [lead, setLead] = useState<Signature>({ username: "", password: "", ride_out: "" });
  const [changed, setChanged] = useState<Changed>({});
  const found = useTaken(sheet);
  const sign = useSign(sheet.id, () => setLead((now) => ({ ...now, password: "" })));
  return (
    <>
      {(sheet.ride_in || sheet.wants) && (
        <label className={benchCss.rideOut}>
          And on the ride out?
          <Input
            maxLength={500}
            value={lead.ride_out}
            onChange={(event) => setLead({ ...lead, ride_out: event.target.value })}
          />
        </label>
      )}
      {!alone && <CounterSign lead={lead} change={setLead} />}
      <Button
        type="primary"
        className={controlsCss.bigAction}
        disabled={waiting > 0 || sign.isPending || found.isPending}
        onClick={() => sign.mutate({ ...lead, taken: takenOff(found.data, changed) })}
      >
        Sign
      </Button>
      <Refused said={sign.error?.message} />
      <FromTheShelf sheet={sheet} changed={changed} change={setChanged} />
    </>
  );
}

function Left({ sheet }: { sheet: Sheet }) {
  return (
    <div className={asksCss.finished}>
      <h1>{sheet.handed_back ? "Handed back, not to be ridden" : "Left without service"}</h1>
      <p>
        {sheet.handed_back
          ? `${sheet.closed_by} closed this visit: ${sheet.handed_back}`
          : `${sheet.closed_by} closed this visit before anything was drained.`}
      </p>
      <Link to="/">Back to the ward</Link>
    </div>
  );
}

function heading(sheet: Sheet): string {
  if (sheet.state === "signed") return "Signed and closed";
  return sheet.ready_to_sign ? "All done. Sign it off." : "Nothing to do until it is answered.";
}

/** The end of a visit: sign it, or see that it is closed. */
export function Finished({
  sheet,
  mayWork,
  waiting,
}: {
  sheet: Sheet;
  mayWork: boolean;
  waiting: number;
}) {
  if (sheet.state === "left") return <Left sheet={sheet} />;
  const signed = sheet.state === "signed";
  const skipped = sheet.steps.filter((step) => step.status === "skipped");
  return (
    <div className={asksCss.finished}>
      <h1>{heading(sheet)}</h1>
      <Answered sheet={sheet} />
      <Owner sheet={sheet} />
      {skipped.length > 0 && (
        <p>Skipped: {skipped.map((step) => `${step.title} (${step.remark})`).join("; ")}.</p>
      )}
      {sheet.tasks
        .filter((task) => task.not_learned)
        .map((task) => (
          <p key={task.key}>
            What the {task.label} took is not learned from. {task.not_learned}
          </p>
        ))}
      {signed && (
        <p>
          Signed by {sheet.closed_by}. <Link to={`/bikes/${sheet.bike.id}`}>See the bike</Link> ·{" "}
          <Link to="/">Back to the ward</Link>
        </p>
      )}
      {sheet.ready_to_sign && !signed && mayWork && <Signing sheet={sheet} waiting={waiting} />}
      <Written sheet={sheet} />
    </div>
  );
}
