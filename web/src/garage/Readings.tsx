import "./readings.css";
import { Button, Input } from "antd";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { api, fieldSentence, Refusal, taken, type Shape } from "../api/client";
import { keys } from "../api/hooks";
import { Dialog } from "../workshop/Dialog";
import { FieldAnswer } from "../workshop/FieldAnswer";
import { Refused } from "../workshop/Refused";

type Line = Shape["ReadingLine"];

const key = (bike: string) => ["readings", bike] as const;

/** Everything ever read on a bike. A lead corrects what slipped; what was written stays beside it. */
export function Readings({ bike, close }: { bike: string; close: () => void }) {
  const [chosen, setChosen] = useState<string | null>(null);
  const { data, error } = useQuery({
    queryKey: key(bike),
    queryFn: () =>
      taken(api.GET("/api/bikes/{bike_id}/odometer/", { params: { path: { bike_id: bike } } })),
  });
  return (
    <Dialog open title="Readings of the odometer" onCancel={close} footer={null} width={760}>
      {error && <Refused said={error.message} />}
      <ol className="readings">
        {data?.lines.map((line) => (
          <li key={line.id}>
            <ReadingLine line={line} />
            {data.may_correct && chosen !== line.id && (
              <Button onClick={() => setChosen(line.id)}>Correct</Button>
            )}
            {chosen === line.id && (
              <Correction bike={bike} page={data} line={line} done={() => setChosen(null)} />
            )}
          </li>
        ))}
      </ol>
      {data?.lines.length === 0 && <p className="soft">Nothing read yet.</p>}
      {data && !data.may_correct && <p className="soft">A lead corrects what slipped.</p>}
    </Dialog>
  );
}

function ReadingLine({ line }: { line: Line }) {
  return (
    <div>
      <b className="tabular">
        {line.odometer}
        {line.hours && ` · ${line.hours}`}
      </b>{" "}
      <span className="soft tabular">
        {line.read_on}, {line.by}
      </span>
      {line.replaced && <span> Then a new odometer was fitted.</span>}
      {line.before.length > 0 && (
        <p className="soft">
          Corrected: {line.reason}. It said <s>{line.before.join("; before that ")}</s>.
        </p>
      )}
    </div>
  );
}

function Correction({
  bike,
  page,
  line,
  done,
}: {
  bike: string;
  page: Shape["Readings"];
  line: Line;
  done: () => void;
}) {
  const client = useQueryClient();
  const [id] = useState(() => crypto.randomUUID());
  const [odometer, setOdometer] = useState("");
  const [hours, setHours] = useState("");
  const [reason, setReason] = useState("");
  const answers = useRef<string[]>([]);
  const save = useMutation({
    mutationFn: ({ shows, meter, sure }: { shows: string; meter: string; sure: string }) => {
      if (sure) answers.current.push(sure);
      return taken(
        api.POST("/api/bikes/{bike_id}/odometer/{reading_id}/correction/", {
          params: { path: { bike_id: bike, reading_id: line.id } },
          body: { id, seen: line.id, odometer: shows, hours: meter, reason, sure: answers.current },
        }),
      );
    },
    onSuccess: (answer) => {
      client.setQueryData(key(bike), answer);
      void client.invalidateQueries({ queryKey: keys.bike(bike) });
      void client.invalidateQueries({ queryKey: ["ward"] });
      done();
    },
    onError: () => void client.invalidateQueries({ queryKey: key(bike) }),
  });
  const problem = save.error instanceof Refusal ? save.error.problem : null;
  const named = ["odometer", "hours", "reason"].some((field) => fieldSentence(problem, field));
  return (
    <form
      className="start"
      onSubmit={(event) => {
        event.preventDefault();
        save.mutate({ shows: odometer, meter: hours, sure: "" });
      }}
    >
      <label htmlFor="right-odometer">It really showed, in {page.unit}</label>
      <Input
        id="right-odometer"
        autoFocus
        value={odometer}
        placeholder={line.odometer}
        onChange={(event) => setOdometer(event.target.value)}
      />
      <FieldAnswer
        problem={problem}
        field="odometer"
        answer={(shows, sure) => {
          setOdometer(shows);
          save.mutate({ shows, meter: hours, sure });
        }}
      />
      {page.counts_hours && (
        <>
          <label htmlFor="right-hours">Hour meter, if that was wrong</label>
          <Input
            id="right-hours"
            value={hours}
            placeholder={line.hours}
            onChange={(event) => setHours(event.target.value)}
          />
          <FieldAnswer
            problem={problem}
            field="hours"
            answer={(meter, sure) => {
              setHours(meter);
              save.mutate({ shows: odometer, meter, sure });
            }}
          />
        </>
      )}
      <label htmlFor="why">Why</label>
      <Input
        id="why"
        value={reason}
        placeholder="a digit too many"
        onChange={(event) => setReason(event.target.value)}
      />
      <Refused said={fieldSentence(problem, "reason")} />
      {save.error && !named && <Refused said={save.error.message} />}
      <div className="card-tools">
        <Button type="primary" htmlType="submit" disabled={save.isPending}>
          Correct it
        </Button>
        <Button onClick={done}>Leave it</Button>
      </div>
    </form>
  );
}
