import { Button, Input } from "antd";
import { api, type Shape, gone } from "../api/client";
import { useBikeWrite } from "../api/hooks";
import { Ask, Field } from "../ui/Ask";
import { Dialog } from "../ui/Dialog";
import textCss from "../ui/text.module.css";

type Line = Shape["SpecLine"];

function useOwn(bike: string, line: Line, done: () => void) {
  return useBikeWrite(
    bike,
    ({ written, document }: { written: string; document: string }) =>
      gone(
        api.PUT("/api/bikes/{bike_id}/own-values/", {
          params: { path: { bike_id: bike } },
          body: { path: line.path, written, document, page: "", revision: line.revision },
        }),
      ),
    done,
  );
}

/** A value that differs on this bike from its model's sheet. */
export function OwnValue({ bike, line, close }: { bike: string; line: Line; close: () => void }) {
  const save = useOwn(bike, line, close);
  return (
    <Dialog open title={`On this bike: ${line.name}`} onCancel={close} footer={null} width={520}>
      <p className={textCss.soft}>
        {line.own ? "Its own value is" : "Its model's sheet says"} <b>{line.as_written}</b>.
      </p>
      <Ask
        initial={{ written: line.own ? line.as_written : "", document: "" }}
        send={(given) => save.mutate(given)}
        error={save.error}
        pending={save.isPending}
        submit="Use it for this bike"
        beside={
          line.own && (
            <Button size="large" onClick={() => save.mutate({ written: "", document: "" })}>
              Go back to the model&apos;s sheet
            </Button>
          )
        }
      >
        <Field
          name="written"
          label="What holds for this bike"
          need="Type what holds for this bike."
        >
          <Input placeholder={line.as_written} />
        </Field>
        <Field name="document" label="How you know">
          <Input placeholder="label on the case, measured …" />
        </Field>
      </Ask>
    </Dialog>
  );
}
