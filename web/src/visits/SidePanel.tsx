import { Button, Input } from "antd";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, taken } from "../api/client";
import { keys } from "../api/hooks";
import { Countdown } from "./Countdown";
import type { Sheet } from "./outbox";
import { Refused } from "../workshop/Refused";
import { Dialog } from "../workshop/Dialog";

function Leave({ sheet }: { sheet: Sheet }) {
  const client = useQueryClient();
  const [asking, setAsking] = useState(false);
  const [reason, setReason] = useState("");
  const leave = useMutation({
    mutationFn: () =>
      taken(
        api.POST("/api/visits/{visit_id}/leave/", {
          params: { path: { visit_id: sheet.id } },
          body: { reason },
        }),
      ),
    onSuccess: (answer) => {
      setAsking(false);
      client.setQueryData(keys.visit(sheet.id), answer);
      void client.invalidateQueries({ queryKey: keys.wards });
    },
  });
  return (
    <>
      <Button block onClick={() => setAsking(true)}>
        Leave this visit
      </Button>
      <Dialog
        open={asking}
        title="Leave this visit"
        okText="Leave it"
        onOk={() => leave.mutate()}
        confirmLoading={leave.isPending}
        onCancel={() => setAsking(false)}
      >
        <label htmlFor="leave-reason">Nothing has been drained. Why is it not done?</label>
        <Input
          id="leave-reason"
          value={reason}
          onChange={(event) => setReason(event.target.value)}
        />
        <Refused said={leave.error?.message} />
      </Dialog>
    </>
  );
}

/** The state of the bike and the running timers, for whoever comes back to it. */
export function SidePanel({
  sheet,
  now,
  mayWork,
}: {
  sheet: Sheet;
  now: () => number;
  mayWork: boolean;
}) {
  const running = sheet.steps.filter((step) => step.ends_at && step.status === "focus");
  return (
    <aside className="side" aria-label="State of the bike">
      <h2>The bike now</h2>
      <dl>
        {sheet.standing.map((item) => (
          <div key={item.part} className={item.open ? "standing standing-open" : "standing"}>
            <dt>{item.part}</dt>
            <dd>{item.word}</dd>
          </div>
        ))}
        {sheet.drained && (
          <div className="standing">
            <dt>Came out</dt>
            <dd className="tabular">{sheet.drained}</dd>
          </div>
        )}
        <div className="standing">
          <dt>Book, {sheet.variant}</dt>
          <dd className="tabular">{sheet.capacity}</dd>
        </div>
      </dl>
      {running.map(
        (step) =>
          step.ends_at && (
            <p key={step.id} className="side-timer">
              {step.title} <Countdown endsAt={step.ends_at} now={now} />
            </p>
          ),
      )}
      {sheet.coach && sheet.added && <p className="soft">{sheet.coach.belief}</p>}
      {sheet.set_aside.length > 0 && (
        <p className="soft">
          Set aside by a correction: {sheet.set_aside.map((entry) => entry.result).join("; ")}.
        </p>
      )}
      <p className="soft side-sheet">
        {sheet.odometer}
        {sheet.corrected && ` (the reading was corrected since: ${sheet.corrected})`} · spec sheet
        version {sheet.sheet_version}. The service manual comes first.
      </p>
      {mayWork && sheet.state === "open" && sheet.may_leave && <Leave sheet={sheet} />}
    </aside>
  );
}
