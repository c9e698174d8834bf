import { Button, Input, Segmented } from "antd";
import { useState } from "react";
import { useNavigate } from "react-router";
import { fieldSentence, Refusal, type Shape } from "../api/client";
import { useOpenVisit } from "../api/hooks";
import { FieldAnswer } from "../workshop/FieldAnswer";
import { Refused } from "../workshop/Refused";
import { Dialog } from "../workshop/Dialog";

interface Props {
  bike: Shape["BikePage"];
  reservoir: Shape["ReservoirPage"];
  planned?: string;
  close: () => void;
}

/** Opening a visit: the odometer first, then which capacity applies. */
export function StartVisit({ bike, reservoir, planned, close }: Props) {
  const go = useNavigate();
  const open = useOpenVisit();
  const [id] = useState(() => crypto.randomUUID());
  const [odometer, setOdometer] = useState("");
  const [hours, setHours] = useState("");
  const [answers, setAnswers] = useState<string[]>([]);
  const [variant, setVariant] = useState(planned ?? reservoir.variants[0] ?? "");
  const problem = open.error instanceof Refusal ? open.error.problem : null;
  const atOdometer = fieldSentence(problem, "odometer");
  const elsewhere =
    open.error && !atOdometer && !fieldSentence(problem, "hours") ? open.error.message : "";

  function start(shows: string, answer: string, meter = hours) {
    setOdometer(shows);
    const sure = answer ? [...answers, answer] : answers;
    setAnswers(sure);
    const key = reservoir.glass.key;
    open.mutate(
      {
        id,
        bike: bike.id,
        reservoir: key,
        variant,
        odometer: shows,
        sure,
        hours: meter,
        fluid: "",
      },
      { onSuccess: (sheet) => void go(`/visits/${sheet.id}`) },
    );
  }

  return (
    <Dialog
      open
      title={`Service the ${reservoir.glass.label}`}
      onCancel={close}
      footer={null}
      width={560}
    >
      <form
        onSubmit={(event) => {
          event.preventDefault();
          start(odometer, "");
        }}
        className="start"
      >
        <label htmlFor="odometer">Odometer now, in {bike.odometer_unit}</label>
        <Input
          id="odometer"
          size="large"
          inputMode="decimal"
          value={odometer}
          status={atOdometer && !problem?.question ? "error" : undefined}
          placeholder={`last time ${bike.odometer}`}
          onChange={(event) => setOdometer(event.target.value)}
        />
        <FieldAnswer problem={problem} field="odometer" answer={start} />
        {bike.counts_hours && (
          <>
            <label htmlFor="visit-hours">Hour meter now</label>
            <Input
              id="visit-hours"
              size="large"
              value={hours}
              onChange={(event) => setHours(event.target.value)}
            />
            <FieldAnswer
              problem={problem}
              field="hours"
              answer={(said, sure) => {
                setHours(said);
                start(odometer, sure, said);
              }}
            />
          </>
        )}
        <span id="variant-label">Which capacity</span>
        <Segmented
          aria-labelledby="variant-label"
          block
          size="large"
          value={variant}
          options={reservoir.variants}
          onChange={setVariant}
        />
        <Refused said={elsewhere} />
        <Button type="primary" htmlType="submit" size="large" block disabled={open.isPending}>
          Start the run sheet
        </Button>
      </form>
    </Dialog>
  );
}
