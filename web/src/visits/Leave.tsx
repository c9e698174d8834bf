import { Button, Input } from "antd";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { keep } from "../api/keep";
import { api, taken } from "../api/client";
import { keys } from "../api/hooks";
import { Dialog } from "../ui/Dialog";
import { Refused } from "../ui/Refused";
import type { Sheet } from "./outbox";

/** Closing a visit in which nothing was drained. */
export function Leave({ sheet }: { sheet: Sheet }) {
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
    onSuccess: async (answer) => {
      setAsking(false);
      await keep(client, keys.visit(sheet.id), answer);
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
        <label htmlFor="leave-reason">
          {sheet.handed_back
            ? "What was agreed with the owner?"
            : "Nothing has been drained. Why is it not done?"}
        </label>
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
