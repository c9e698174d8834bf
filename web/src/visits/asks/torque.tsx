import { useMutation } from "@tanstack/react-query";
import { Button, Input, Segmented } from "antd";
import { useDeferredValue, useEffect, useId, useRef } from "react";
import { api, fieldSentence, taken, type Problem, type Shape } from "../../api/client";
import { useUnderstood } from "../../api/hooks";
import { ScrewRing } from "../../glass/ScrewRing";
import { TorqueArc } from "../../glass/TorqueArc";
import { Chips, toggled } from "../../ui/Chips";
import { Why } from "../../ui/Why";
import { useDraft } from "../draft";
import { isClosed, type Step, type StepProps } from "../sheet";
import { AmountField } from "./AmountField";
import { SecondLook } from "./SecondLook";
import { Tore } from "./Tore";
import { Refused } from "../../ui/Refused";
import asksCss from "./asks.module.css";
import benchCss from "../bench.module.css";
import controlsCss from "../../ui/controls.module.css";
import textCss from "../../ui/text.module.css";

type Wrench = Shape["WrenchShape"];
type Card = Shape["TorqueShape"];

function PullButton({
  wrench,
  aim,
  taken: take,
}: {
  wrench: Wrench;
  aim: string;
  taken: (reading: string) => void;
}) {
  const pull = useMutation({
    mutationFn: () =>
      taken(
        api.GET("/api/wrenches/{wrench_id}/pull/", {
          params: { path: { wrench_id: Number(wrench.id) }, query: { aim } },
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

/** What the manual says, on the scale of the wrench in hand as well. */
function Manual({ card, wrench, half }: { card: Card; wrench: Wrench | undefined; half: boolean }) {
  const said = [
    `Manual ${card.manual}`,
    wrench?.converted && `on this scale ${wrench.converted}`,
    half && wrench && `then ${wrench.setting}`,
  ];
  return (
    <p>
      {said.filter(Boolean).join(", ")}{" "}
      <Why reasons={[...card.reasons, ...(wrench?.reasons ?? [])]} />
    </p>
  );
}

function Setting({ card, wrench }: { card: Card; wrench: Wrench | undefined }) {
  const half = card.ring?.next === "half";
  return (
    <>
      {wrench ? (
        <p className={asksCss.setting}>
          <span className={textCss.soft}>{half ? "First pass, set" : "Set"}</span>{" "}
          {half ? wrench.half : wrench.setting}
        </p>
      ) : (
        <p className={benchCss.remark}>No wrench on the shelf fits. Fetch one for {card.aim}.</p>
      )}
      <Manual card={card} wrench={wrench} half={half} />
      {wrench?.calibration && (
        <p className={textCss.soft}>
          {wrench.name}, {wrench.calibration}
        </p>
      )}
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

/** What is written down of a pull, besides which wrench it was. */
interface Pull {
  reading?: string;
  sure?: string;
  over?: boolean;
  feel?: boolean;
}
type Write = (pull: Pull) => void;

/** What one tap says: the wrench clicked where it was set, once at one fastener, or all round. */
function clicked(
  card: Card | null,
  wrench: Wrench | undefined,
): { label: string; reading: string } {
  const { setting = "", half = "" } = wrench ?? {};
  const ring = card?.ring;
  if (!ring) return { label: `Clicked at ${setting}`, reading: setting };
  if (ring.next === "half") return { label: `All ${ring.count} at ${half}`, reading: half };
  return { label: `All ${ring.count} clicked at ${setting}`, reading: setting };
}

/** One large tap for a wrench that clicked where it was set; what was typed or taken from it otherwise. */
function Pulled({
  card,
  reading,
  wrench,
  busy,
  write,
}: {
  card: Card | null;
  reading: string;
  wrench: Wrench | undefined;
  busy: boolean;
  write: Write;
}) {
  const one = clicked(card, wrench);
  const typed = reading.trim() !== "" || one.reading === "";
  return (
    <>
      <Button
        type="primary"
        className={controlsCss.bigAction}
        disabled={busy}
        onClick={() => write({ reading: typed ? reading : one.reading })}
      >
        {typed ? "Write it down" : one.label}
      </Button>
      <div className={asksCss.taps}>
        <Button
          type="text"
          className={asksCss.skip}
          disabled={busy}
          onClick={() => write({ reading: typed ? reading : one.reading, over: true })}
        >
          Pulled too far
        </Button>
        <Button
          type="text"
          className={asksCss.skip}
          disabled={busy}
          onClick={() => write({ feel: true })}
        >
          By feel
        </Button>
      </div>
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

/** What is still to be done once the pull is right: each a tap, or somebody else's word. */
function AfterThePull({ sheet, step, card, busy, send }: StepProps & { card: Card }) {
  const left = step.items.filter(({ code }) => !card.ticked.includes(code));
  if (left.length === 0) return card.second ? <SecondLook sheet={sheet} step={step} /> : null;
  return (
    <div className={controlsCss.choices}>
      {left.map(({ code, words }) => (
        <Button
          key={code}
          type="primary"
          className={controlsCss.bigAction}
          disabled={busy}
          onClick={() => send("ticked", { items: [code] })}
        >
          {words}
        </Button>
      ))}
    </div>
  );
}

/** What is half said at a card, kept until it is written down. */
function useCard({ sheet, step }: Pick<StepProps, "sheet" | "step">) {
  const key = `${sheet.id}.${step.id}`;
  const [reading, setReading] = useDraft(key, "");
  const [chosen, choose] = useDraft(`${key}.wrench`, "");
  const [turned, setTurned] = useDraft(`${key}.turned`, "");
  const [items, setItems] = useDraft<string[]>(`${key}.items`, []);
  const [screw, setScrew] = useDraft<number | null>(`${key}.screw`, null);
  const [seal, setSeal] = useDraft(`${key}.seal`, "");
  useEmptied(step.entry?.id, setReading);
  return {
    reading,
    setReading,
    chosen,
    choose,
    turned,
    setTurned,
    items,
    setItems,
    screw,
    setScrew,
    seal,
    setSeal,
  };
}

function Instruments({
  card,
  wrench,
  now,
}: {
  card: Card | null;
  wrench: Wrench | undefined;
  now: ReturnType<typeof useCard>;
}) {
  const ring = card?.ring;
  return (
    <div>
      {ring && (
        <ScrewRing
          order={ring.order}
          chosen={now.screw}
          choose={(screw) => now.setScrew(screw === now.screw ? null : screw)}
        />
      )}
      {wrench && !ring && <Dial wrench={wrench} reading={now.reading} />}
      <InHand wrenches={card?.wrenches ?? []} wrench={wrench} choose={now.choose} />
      {wrench?.simulated && (
        <PullButton
          wrench={wrench}
          aim={ring?.next === "half" ? wrench.half : wrench.setting}
          taken={now.setReading}
        />
      )}
    </div>
  );
}

/** What goes with a pull: which wrench, which screw or pass, the angle, what is ticked. */
function along(step: Step, now: ReturnType<typeof useCard>, wrench: Wrench | undefined) {
  const { card, turn } = step;
  const items = tickedAt(step, now);
  return {
    ...(wrench && { unit: wrench.unit }),
    ...(turn && { turned: now.turned }),
    ...(items.length > 0 && { items }),
    ...(now.seal && { seal: now.seal }),
    ...(now.screw !== null && { screw: `${now.screw}` }),
    ...(card?.ring && now.screw === null && { stage: card.ring.next ?? "full" }),
  };
}

function tickedAt({ card }: Step, now: ReturnType<typeof useCard>): string[] {
  return [...new Set([...(card?.ticked ?? []), ...now.items])];
}

/** Whether the pull is right, and something is still to be done with it. */
function isPulled({ card, items }: Step): boolean {
  return !!card?.pulled && (card.second || card.ticked.length < items.length);
}

/** The wrench card: which wrench, what to set, the band; the reading typed or taken from it. */
export function TorqueStep(props: StepProps) {
  const { step, send } = props;
  const now = useCard(props);
  if (step.card && isPulled(step) && !isClosed(step)) {
    return <AfterThePull {...props} card={step.card} />;
  }
  const wrenches = step.card?.wrenches ?? [];
  const wrench = wrenches.find(({ id }) => id === now.chosen) ?? wrenches[0];
  const write: Write = (pull) =>
    send("torque", {
      ...pull,
      wrench: pull.feel ? "" : (wrench?.id ?? ""),
      ...along(step, now, wrench),
    });
  return (
    <div className={asksCss.two}>
      <Instruments card={step.card} wrench={wrench} now={now} />
      <Pulling {...props} wrench={wrench} half={now} write={write} />
    </div>
  );
}

interface PullingProps extends StepProps {
  wrench: Wrench | undefined;
  /** What is half said. */
  half: ReturnType<typeof useCard>;
  write: Write;
}

function Pulling({ step, problem, busy, send, wrench, half, write }: PullingProps) {
  const card = step.card;
  return (
    <div>
      {card && <Setting card={card} wrench={wrench} />}
      {step.turn && (
        <Turned said={step.turn} value={half.turned} problem={problem} change={half.setTurned} />
      )}
      {step.options.length > 0 && (
        <Chips
          label="Seal"
          words={step.options}
          on={[half.seal]}
          toggle={(seal) => half.setSeal(seal === half.seal ? "" : seal)}
        />
      )}
      {step.items.length > 0 && (
        <Chips
          label="Done with it"
          words={step.items}
          on={tickedAt(step, half)}
          toggle={(code) => half.setItems(toggled(half.items, code))}
        />
      )}
      <Pulled
        card={half.screw === null ? card : null}
        reading={half.reading}
        wrench={wrench}
        busy={busy}
        write={write}
      />
      <AmountField
        label={half.screw === null ? "Reading" : `Reading of screw ${half.screw}`}
        value={half.reading}
        kind="torque"
        problem={problem}
        field="reading"
        change={half.setReading}
        submit={(reading, sure) => write({ reading, sure })}
      />
      {step.tears && <Tore busy={busy} tore={() => send("tore", {})} />}
    </div>
  );
}
