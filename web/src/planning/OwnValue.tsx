import { Button, Input } from "antd";
import { api, type Shape, gone } from "../api/client";
import { useBikeWrite } from "../api/hooks";
import { Ask, Field } from "../ui/Ask";
import { Dialog } from "../ui/Dialog";
import { Refused } from "../ui/Refused";
import textCss from "../ui/text.module.css";

type Line = Shape["SpecLine"];
type Own = Record<"written" | "document" | "page", string>;

function useOwn(bike: string, line: Line, done: () => void) {
  return useBikeWrite(
    bike,
    (given: Own & { sure: string }) =>
      gone(
        api.PUT("/api/bikes/{bike_id}/own-values/", {
          params: { path: { bike_id: bike } },
          body: { path: line.path, ...given, revision: line.revision },
        }),
      ),
    done,
  );
}

function useCheck(bike: string, line: Line, done: () => void) {
  return useBikeWrite(
    bike,
    () =>
      gone(
        api.POST("/api/bikes/{bike_id}/own-values/checks/", {
          params: { path: { bike_id: bike } },
          body: { path: line.path, revision: line.revision },
        }),
      ),
    done,
  );
}

/** A value of the bike's own that nobody else has seen yet: until then the sheet's counts. */
function Waiting({ bike, line, close }: { bike: string; line: Line; close: () => void }) {
  const check = useCheck(bike, line, close);
  if (!line.waits) return null;
  return (
    <>
      <p>
        {line.waits_by} wrote <b>{line.waits}</b>. It counts once a second person has compared it.
      </p>
      <Button size="large" loading={check.isPending} onClick={() => check.mutate()}>
        I compared it: {line.waits} is right
      </Button>
      <Refused said={check.error?.message} />
    </>
  );
}

/** A value that differs on this bike from its model's sheet. */
export function OwnValue({ bike, line, close }: { bike: string; line: Line; close: () => void }) {
  const save = useOwn(bike, line, close);
  return (
    <Dialog open title={`On this bike: ${line.name}`} onCancel={close} footer={null} width={520}>
      <p className={textCss.soft}>
        {line.own ? "Its own value is" : "Its model's sheet says"}{" "}
        <b>{line.as_written || "nothing"}</b>.
      </p>
      <Waiting bike={bike} line={line} close={close} />
      <Ask
        initial={{ written: line.own ? line.as_written : "", document: "", page: "" }}
        send={(given, sure) => save.mutate({ ...given, sure: sure.at(-1) ?? "" })}
        error={save.error}
        pending={save.isPending}
        submit="Use it for this bike"
        beside={
          (line.own || line.waits) && (
            <Button
              size="large"
              onClick={() => save.mutate({ written: "", document: "", page: "", sure: "" })}
            >
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
        <Field name="page" label="Page">
          <Input placeholder="7-12" />
        </Field>
      </Ask>
    </Dialog>
  );
}
