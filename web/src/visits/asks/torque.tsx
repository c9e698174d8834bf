import { useMutation } from "@tanstack/react-query";
import { Button, Input, Segmented } from "antd";
import { useDeferredValue, useId } from "react";
import { api, fieldSentence, taken, type Problem, type Shape } from "../../api/client";
import { useUnderstood } from "../../api/hooks";
import { TorqueArc } from "../../glass/TorqueArc";
import { Why } from "../../ui/Why";
import { useDraft } from "../draft";
import type { StepProps } from "../sheet";
import { AmountField } from "./AmountField";
import { Refused } from "../../ui/Refused";
import asksCss from "./asks.module.css";
import benchCss from "../bench.module.css";
import controlsCss from "../../ui/controls.module.css";
import textCss from "../../ui/text.module.css";

type Wrench = Shape["WrenchShape"];
type Card = Shape["TorqueShape"];

function PullButton({ wrench, taken: take }: { wrench: Wrench; taken: (reading: string) => void }) {
  const pull = useMutation({
    mutationFn: () =>
      taken(
        api.GET("/api/wrenches/{wrench_id}/pull/", {
          params: { path: { wrench_id: Number(wrench.id) }, query: { aim: wrench.setting } },
        }),
      ),
    onSuccess: (peak) => take(peak.reading),
  });
  return (
    <>
      <Button
        className={controlsCss.wideChoice}
        block
        disabled={pull.isPending}
        onClick={() => pull.mutate()}
      >
        Take from wrench (simulated)
      </Button>
      <Refused said={pull.error?.message} />
    </>
  );
}

function Dial({ wrench, reading }: { wrench: Wrench; reading: string }) {
  const typed = useUnderstood(useDeferredValue(reading), "torque", wrench.unit);
  return (
    <TorqueArc
      unit={wrench.unit}
      scaleLow={wrench.scale_low}
      scaleHigh={wrench.scale_high}
      bandLow={wrench.band_low}
      bandHigh={wrench.band_high}
      mark={wrench.mark}
      reading={typed.data?.number ?? null}
    />
  );
}

function Setting({ card, wrench }: { card: Card | null; wrench: Wrench | undefined }) {
  return (
    <>
      {wrench ? (
        <p className={asksCss.setting}>
          <span className={textCss.soft}>Set</span> {wrench.setting}
        </p>
      ) : (
        <p className={benchCss.remark}>No wrench on the shelf fits. Fetch one for {card?.aim}.</p>
      )}
      <p>
        Manual {card?.manual}
        {wrench?.converted && `, on this scale ${wrench.converted}`}{" "}
        <Why reasons={[...(card?.reasons ?? []), ...(wrench?.reasons ?? [])]} />
      </p>
    </>
  );
}

/** The second of two readings: how far it was turned after the wrench. */
function Turned({
  said,
  value,
  problem,
  change,
}: {
  said: string;
  value: string;
  problem: Problem | null;
  change: (value: string) => void;
}) {
  const id = useId();
  return (
    <div className={asksCss.amount}>
      <label htmlFor={id}>Turned after it, in degrees ({said})</label>
      <Input
        id={id}
        className={controlsCss.smallInput}
        inputMode="decimal"
        value={value}
        onChange={(event) => change(event.target.value)}
      />
      <div className={asksCss.taps}>
        {["45", "60", "90", "180"].map((degrees) => (
          <Button key={degrees} onClick={() => change(degrees)}>
            {degrees}°
          </Button>
        ))}
      </div>
      <Refused said={fieldSentence(problem, "turned")} />
    </div>
  );
}

/** The wrench card: which wrench, what to set, the band; the reading typed or taken from it. */
export function TorqueStep({ sheet, step, task, problem, busy, send }: StepProps) {
  const card = task?.torque ?? null;
  const [reading, setReading] = useDraft(`${sheet.id}.${step.id}`, "");
  const [chosen, setChosen] = useDraft(`${sheet.id}.${step.id}.wrench`, "");
  const [turned, setTurned] = useDraft(`${sheet.id}.${step.id}.turned`, "");
  const wrenches = card?.wrenches ?? [];
  const wrench = wrenches.find(({ id }) => id === chosen) ?? wrenches[0];
  const write = (said: string, sure: string) =>
    send("torque", {
      reading: said,
      sure,
      wrench: wrench?.id ?? "",
      ...(wrench && { unit: wrench.unit }),
      ...(step.turn && { turned }),
    });
  return (
    <div className={asksCss.two}>
      <div>
        {wrench && <Dial wrench={wrench} reading={reading} />}
        {wrenches.length > 1 && (
          <Segmented
            aria-label="Wrench in hand"
            vertical
            size="large"
            block
            value={wrench?.id}
            options={wrenches.map(({ id, name }) => ({ value: id, label: name }))}
            onChange={setChosen}
          />
        )}
        {wrench?.simulated && <PullButton wrench={wrench} taken={setReading} />}
      </div>
      <div>
        <Setting card={card} wrench={wrench} />
        <AmountField
          label="Reading"
          value={reading}
          kind="torque"
          problem={problem}
          field="reading"
          change={setReading}
          submit={write}
        />
        {step.turn && (
          <Turned said={step.turn} value={turned} problem={problem} change={setTurned} />
        )}
        <Button
          type="primary"
          className={controlsCss.bigAction}
          disabled={busy}
          onClick={() => write(reading, "")}
        >
          Write it down
        </Button>
      </div>
    </div>
  );
}
