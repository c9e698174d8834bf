import { useMutation } from "@tanstack/react-query";
import { Button } from "antd";
import { api, fieldSentence, taken } from "../../api/client";
import { TorqueArc } from "../../glass/TorqueArc";
import { Why } from "../../workshop/Why";
import { useDraft } from "../outbox";
import type { StepProps } from "../StepFocus";
import { AmountField } from "./AmountField";

/** The wrench card: what to set, the band, and the reading typed or taken from the wrench. */
export function TorqueStep({ sheet, step, problem, busy, send }: StepProps) {
  const card = sheet.torque;
  const [reading, setReading] = useDraft(`${sheet.id}.${step.id}`, "");
  const wrench = card?.wrench_id ?? "";
  const pull = useMutation({
    mutationFn: () =>
      taken(
        api.GET("/api/wrenches/{wrench_id}/pull/", {
          params: { path: { wrench_id: Number(wrench) }, query: { aim: card?.setting ?? "" } },
        }),
      ),
    onSuccess: (peak) => setReading(peak.reading),
  });
  const write = () => send("torque", { reading, wrench, unit: card?.unit });
  if (!card) {
    return (
      <Button type="primary" className="big-action" loading={busy} onClick={write}>
        By hand, done
      </Button>
    );
  }
  return (
    <div className="two">
      <TorqueArc
        unit={card.unit}
        scaleLow={card.scale_low}
        scaleHigh={card.scale_high}
        bandLow={card.band_low}
        bandHigh={card.band_high}
        mark={card.mark}
        reading={card.reading}
      />
      <div>
        <p className="setting">
          <span className="soft">Set</span> {card.setting}
        </p>
        <p>
          {card.wrench || `No wrench on the shelf fits. Fetch one for ${card.fetch}.`}
          <br />
          Manual {card.manual}, that is {card.converted} <Why reasons={card.reasons} />
        </p>
        <AmountField
          label="Reading"
          value={reading}
          kind="torque"
          refused={fieldSentence(problem, "reading")}
          change={setReading}
          submit={write}
        />
        <div className="choices">
          {card.simulated && (
            <Button className="big-action" loading={pull.isPending} onClick={() => pull.mutate()}>
              Take from wrench (simulated)
            </Button>
          )}
          <Button type="primary" className="big-action" loading={busy} onClick={write}>
            Write it down
          </Button>
        </div>
        {pull.error && (
          <p className="refusal" role="alert">
            {pull.error.message}
          </p>
        )}
      </div>
    </div>
  );
}
