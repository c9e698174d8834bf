import { Button, Input } from "antd";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, fieldSentence, Refusal, type Shape } from "../api/client";
import { keys } from "../api/hooks";
import { gone } from "../garage/sheets";
import { FieldAnswer } from "../workshop/FieldAnswer";
import { Refused } from "../workshop/Refused";
import { Dialog } from "../workshop/Dialog";

/** A value that differs on this bike from its model's sheet. */
export function OwnValue({
  bike,
  line,
  close,
}: {
  bike: string;
  line: Shape["SpecLine"];
  close: () => void;
}) {
  const client = useQueryClient();
  const [written, setWritten] = useState(line.own ? line.as_written : "");
  const [document, setDocument] = useState("");
  const save = useMutation({
    mutationFn: (text: string) =>
      gone(
        api.PUT("/api/bikes/{bike_id}/own-values/", {
          params: { path: { bike_id: bike } },
          body: { path: line.path, written: text, document, page: "", revision: line.revision },
        }),
      ),
    onSuccess: () => {
      void client.invalidateQueries({ queryKey: keys.bike(bike) });
      void client.invalidateQueries({ queryKey: ["ward"] });
      close();
    },
  });
  const problem = save.error instanceof Refusal ? save.error.problem : null;
  const elsewhere = fieldSentence(problem, "written") ? undefined : save.error?.message;
  return (
    <Dialog open title={`On this bike: ${line.name}`} onCancel={close} footer={null} width={520}>
      <form
        className="start"
        onSubmit={(event) => {
          event.preventDefault();
          save.mutate(written);
        }}
      >
        <p className="soft">
          {line.own ? "Its own value is" : "Its model's sheet says"} <b>{line.as_written}</b>.
        </p>
        <label htmlFor="own-written">What holds for this bike</label>
        <Input
          id="own-written"
          value={written}
          onChange={(event) => setWritten(event.target.value)}
        />
        <FieldAnswer
          problem={problem}
          field="written"
          answer={(said) => {
            setWritten(said);
            save.mutate(said);
          }}
        />
        <label htmlFor="own-document">How you know</label>
        <Input
          id="own-document"
          value={document}
          placeholder="label on the case, measured …"
          onChange={(event) => setDocument(event.target.value)}
        />
        <Refused said={elsewhere} />
        <Button type="primary" htmlType="submit" disabled={save.isPending || written.trim() === ""}>
          Use it for this bike
        </Button>
        {line.own && (
          <Button onClick={() => save.mutate("")}>Go back to the model&apos;s sheet</Button>
        )}
      </form>
    </Dialog>
  );
}
