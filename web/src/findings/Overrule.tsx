import { Button, Input, Segmented } from "antd";
import { useState } from "react";
import { api, fieldSentence, problemOf, taken, type Shape } from "../api/client";
import { useBikeWrite } from "../api/hooks";
import { Dialog } from "../ui/Dialog";
import { Refused } from "../ui/Refused";

const LEVELS: Shape["LevelWord"][] = ["routine", "note", "watch", "investigate", "hold"];

/** A lead sees a finding otherwise, and says why; what the rules said stands beside it. */
export function Overrule({ bike, plug }: { bike: string; plug: Shape["Plug"] }) {
  const [asking, setAsking] = useState("");
  const [level, setLevel] = useState(plug.level);
  const [reason, setReason] = useState("");
  const write = useBikeWrite(
    bike,
    (body: Shape["NewOverrulingRequest"]) =>
      taken(
        api.POST("/api/findings/{finding_id}/overrulings/", {
          params: { path: { finding_id: plug.id } },
          body,
        }),
      ),
    () => setAsking(""),
  );
  const problem = problemOf(write.error);
  return (
    <>
      <Button type="text" onClick={() => setAsking(crypto.randomUUID())}>
        I see it otherwise
      </Button>
      <Dialog
        open={asking !== ""}
        title="What do you take it for?"
        okText="Write it down"
        okButtonProps={{ disabled: !reason.trim() || level === plug.level }}
        confirmLoading={write.isPending}
        onOk={() => write.mutate({ id: asking, level, reason })}
        onCancel={() => setAsking("")}
      >
        <Segmented
          aria-label="Level"
          block
          size="large"
          value={level}
          options={LEVELS}
          onChange={setLevel}
        />
        <label htmlFor="overrule-reason">Why</label>
        <Input
          id="overrule-reason"
          maxLength={500}
          placeholder="same casting flash as on its sisters"
          value={reason}
          onChange={(event) => setReason(event.target.value)}
        />
        <Refused said={problem ? fieldSentence(problem, "reason") || problem.detail : ""} />
      </Dialog>
    </>
  );
}
