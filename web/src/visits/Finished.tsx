import { useMutation, useQueryClient } from "@tanstack/react-query";
import { Button, Input } from "antd";
import { useState } from "react";
import { Link } from "react-router";
import { api, taken } from "../api/client";
import { keys, useSession } from "../api/hooks";
import { PlugTip } from "../glass/PlugTip";
import type { Sheet } from "./outbox";
import { Refused } from "../workshop/Refused";

function Summary({ sheet }: { sheet: Sheet }) {
  return (
    <dl className="summary">
      <div>
        <dt>Came out</dt>
        <dd className="tabular">{sheet.drained || "not measured"}</dd>
      </div>
      <div>
        <dt>It took</dt>
        <dd className="tabular">{sheet.added}</dd>
      </div>
      {sheet.torque?.reading && (
        <div>
          <dt>Drain plug</dt>
          <dd className="tabular">{sheet.torque.reading}</dd>
        </div>
      )}
      {sheet.verdict && (
        <div>
          <dt>Plug</dt>
          <dd>
            <PlugTip parts={sheet.verdict.parts} level={sheet.verdict.level} size={44} />{" "}
            {sheet.verdict.level}
          </dd>
        </div>
      )}
    </dl>
  );
}

interface Lead {
  username: string;
  password: string;
}

function useSign(visit: string, settled: () => void) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: Lead) =>
      taken(
        api.POST("/api/visits/{visit_id}/signature/", {
          params: { path: { visit_id: visit } },
          body,
        }),
      ),
    onSettled: settled,
    onSuccess: (answer) => {
      client.setQueryData(keys.visit(visit), answer);
      // ward, bike, plans, calendar and shelf all tell of it
      void client.invalidateQueries({ predicate: (one) => one.queryKey[0] !== keys.session[0] });
    },
  });
}

function CounterSign({ lead, change }: { lead: Lead; change: (lead: Lead) => void }) {
  return (
    <fieldset className="countersign">
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

/** The signature; an apprentice signs with a lead beside. */
function Signing({ sheet, waiting }: { sheet: Sheet; waiting: number }) {
  const apprentice = useSession().data?.role === "apprentice";
  const [lead, setLead] = useState<Lead>({ username: "", password: "" });
  const sign = useSign(sheet.id, () => setLead((now) => ({ ...now, password: "" })));
  return (
    <>
      {apprentice && <CounterSign lead={lead} change={setLead} />}
      <Button
        type="primary"
        className="big-action"
        disabled={waiting > 0 || sign.isPending}
        onClick={() => sign.mutate(lead)}
      >
        Sign
      </Button>
      <Refused said={sign.error?.message} />
    </>
  );
}

function Left({ sheet }: { sheet: Sheet }) {
  return (
    <div className="finished">
      <h1>Left without service</h1>
      <p>{sheet.closed_by} closed this visit before anything was drained.</p>
      <Link to="/">Back to the ward</Link>
    </div>
  );
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
    <div className="finished">
      <h1>{signed ? "Signed and closed" : "All done. Sign it off."}</h1>
      <Summary sheet={sheet} />
      {skipped.length > 0 && (
        <p>Skipped: {skipped.map((step) => `${step.title} (${step.remark})`).join("; ")}.</p>
      )}
      {sheet.not_learned && <p>What it took is not learned from. {sheet.not_learned}</p>}
      {signed && (
        <p>
          Signed by {sheet.closed_by}. <Link to={`/bikes/${sheet.bike.id}`}>See the bike</Link> ·{" "}
          <Link to="/">Back to the ward</Link>
        </p>
      )}
      {!signed && mayWork && <Signing sheet={sheet} waiting={waiting} />}
    </div>
  );
}
