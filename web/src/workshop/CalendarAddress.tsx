import { Button, Popconfirm } from "antd";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { api, gone } from "../api/client";
import { keys } from "../api/keys";
import { Refused } from "../ui/Refused";

/** A lead gives the calendar's feed another secret address. */
export function CalendarAddress() {
  const client = useQueryClient();
  const renew = useMutation({
    mutationFn: (act: string) =>
      gone(api.PUT("/api/workshop/calendar-address/{act}/", { params: { path: { act } } })),
    onSuccess: () => void client.invalidateQueries({ queryKey: keys.calendar }),
  });
  return (
    <div>
      <Popconfirm
        title="Whoever has the old address sees nothing any more."
        okText="Give it a new one"
        cancelText="Leave it"
        onConfirm={() => renew.mutate(crypto.randomUUID())}
      >
        <Button>Renew the calendar&apos;s address</Button>
      </Popconfirm>
      {renew.isSuccess && <span role="status"> Renewed. Hand out the new one.</span>}
      <Refused said={renew.error?.message} />
    </div>
  );
}
