import { useMutation } from "@tanstack/react-query";
import { Button, Input, Segmented } from "antd";
import { useDeferredValue, useEffect, useId, useRef } from "react";
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

/** Which of the wrenches that fit. */
function InHand({
  wrenches,
  wrench,
  choose,
}: {
  wrenches: Wrench[];
  wrench: Wrench | undefined;
  choose: (id: string) => void;
}) {
  if (wrenches.length < 2) return null;
  return (
    <Segmented
      aria-label="Wrench in hand"
      vertical
      size="large"
      block
      value={wrench?.id}
      options={wrenches.map(({ id, name }) => ({ value: id, label: name }))}
      onChange={choose}
    />
  );
}

type Write = (said: string, sure: string, over?: boolean) => void;

/** One large tap for a wrench that clicked where it was set; what was typed or taken from it otherwise. */
function Pulled({
  reading,
  wrench,
  busy,
  write,
}: {
  reading: string;
  wrench: Wrench | undefined;
  busy: boolean;
  write: Write;
}) {
  const clicked = reading.trim() ? "" : (wrench?.setting ?? "");
  return (
    <>
      <Button
        type="primary"
        className={controlsCss.bigAction}
        disabled={busy}
        onClick={() => write(clicked || reading, "")}
      >
        {clicked ? `Clicked at ${clicked}` : "Write it down"}
      </Button>
      <Button
        type="text"
        className={asksCss.skip}
        disabled={busy}
        onClick={() => write(clicked || reading, "", true)}
      >
        Pulled too far
      </Button>
    </>
  );
}

/** A reading that was written down stands in no field any more: the next one is another. */
function useEmptied(written: string | undefined, set: (value: string) => void) {
  const before = useRef(written);
  useEffect(() => {
    if (before.current !== written) set("");
    before.current = written;
  }, [written, set]);
}

/** The wrench card: which wrench, what to set, the band; the reading typed or taken from it. */
export function TorqueStep({ sheet, step, problem, busy, send }: StepProps) {
  const card = step.card;
  const [reading, setReading] = useDraft(`${sheet.id}.${step.id}`, "");
  const [chosen, setChosen] = useDraft(`${sheet.id}.${step.id}.wrench`, "");
  const [turned, setTurned] = useDraft(`${sheet.id}.${step.id}.turned`, "");
  const wrenches = card?.wrenches ?? [];
  const wrench = wrenches.find(({ id }) => id === chosen) ?? wrenches[0];
  useEmptied(step.entry?.id, setReading);
  const write: Write = (said, sure, over = false) =>
    send("torque", {
      reading: said,
      sure,
      ...(over && { over }),
      wrench: wrench?.id ?? "",
      ...(wrench && { unit: wrench.unit }),
      ...(step.turn && { turned }),
    });
  return (
    <div className={asksCss.two}>
      <div>
        {wrench && <Dial wrench={wrench} reading={reading} />}
        <InHand wrenches={wrenches} wrench={wrench} choose={setChosen} />
        {wrench?.simulated && <PullButton wrench={wrench} taken={setReading} />}
      </div>
      <div>
        <Setting card={card} wrench={wrench} />
        {step.turn && (
          <Turned said={step.turn} value={turned} problem={problem} change={setTurned} />
        )}
        <Pulled reading={reading} wrench={wrench} busy={busy} write={write} />
        <AmountField
          label="Reading"
          value={reading}
          kind="torque"
          problem={problem}
          field="reading"
          change={setReading}
          submit={write}
        />
      </div>
    </div>
  );
}
