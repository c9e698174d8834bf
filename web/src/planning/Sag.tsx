import { clsx } from "clsx";
import { useMutation } from "@tanstack/react-query";
import { Input, Select } from "antd";
import { api, taken, type Shape } from "../api/client";
import { Ask, Field } from "../ui/Ask";
import { Dialog } from "../ui/Dialog";
import sagCss from "./sag.module.css";
import askCss from "../ui/ask.module.css";
import textCss from "../ui/text.module.css";

type Read = Omit<Shape["SagReadRequest"], "sure">;
type Answer = Shape["SagAnswer"];
type Line = Shape["SagLine"];

const FIRST: Read = {
  free: "",
  bike_down: "",
  bike_up: "",
  rider_down: "",
  rider_up: "",
  weight: "",
  ridden: "road",
};
const RIDDEN: { value: Read["ridden"]; label: string }[] = [
  { value: "road", label: "On the road" },
  { value: "off road", label: "Off it" },
];
const WHO = { bike: "The bike alone", rider: "With its rider" } as const;

/** How far of its travel it sank, and the window it should lie in. */
function Bar({ line, travel }: { line: Line; travel: number }) {
  const share = (mm: number) => `${(100 * Math.min(mm, travel)) / travel}%`;
  return (
    <div className={sagCss.bar} role="img" aria-label={`${line.sag}, should be ${line.window}`}>
      <span
        className={sagCss.window}
        style={{ left: share(line.low_mm), width: share(line.high_mm - line.low_mm) }}
      />
      <span
        className={clsx(sagCss.sunk, !line.right && sagCss.off)}
        style={{ left: share(line.mm) }}
      />
    </div>
  );
}

/** Both sags, each in its window, and the one thing to do. */
function Says({ answer }: { answer: Answer }) {
  return (
    <section aria-live="polite" className={sagCss.says}>
      <p className={sagCss.words}>{answer.words}</p>
      {answer.lines.map((line) => (
        <div key={line.who}>
          <p>
            {WHO[line.who]}: <b className={textCss.tabular}>{line.sag}</b>, should be {line.window}{" "}
            <span className={textCss.soft}>
              ({line.source}); settled {line.apart} apart
            </span>
          </p>
          <Bar line={line} travel={answer.travel_mm} />
        </div>
      ))}
      <p className={textCss.soft}>
        {answer.rate && `For this weight: ${answer.rate} at each spring, at the wheel. `}
        {answer.turn && `A turn of preload is ${answer.turn} at the wheel.`}
      </p>
    </section>
  );
}

/** How far the bike sinks, as a tape says it: nothing of it is kept. */
export function Sag({
  bike,
  reservoir,
  close,
}: {
  bike: string;
  reservoir: Shape["ReservoirPage"];
  close: () => void;
}) {
  const { key, label } = reservoir.glass;
  const asked = useMutation({
    mutationFn: (body: Shape["SagReadRequest"]) =>
      taken(
        api.POST("/api/bikes/{bike_id}/sag/{reservoir}/", {
          params: { path: { bike_id: bike, reservoir: key } },
          body,
        }),
      ),
  });
  return (
    <Dialog open title={`Sag: ${label}`} onCancel={close} footer={null} width={760}>
      <p className={textCss.soft}>
        Axle to a mark straight above it, in mm. Somebody holds the bike upright; somebody reads.
        Settled twice: lifted and let down slowly, then pressed down and let up slowly.
      </p>
      <Ask
        className={clsx(askCss.ask, askCss.askTwo)}
        initial={FIRST}
        send={(given, sure) => asked.mutate({ ...given, sure })}
        error={asked.error}
        pending={asked.isPending}
        submit="Work it out"
      >
        <Field name="free" label="Wheel hanging">
          <Input placeholder="620" />
        </Field>
        <Field name="ridden" label="Ridden">
          <Select options={RIDDEN} />
        </Field>
        <Field name="bike_down" label="Bike alone, let down from above">
          <Input placeholder="606" />
        </Field>
        <Field name="bike_up" label="Bike alone, let up from below">
          <Input placeholder="602" />
        </Field>
        <Field name="rider_down" label="Rider on, let down from above">
          <Input placeholder="588" />
        </Field>
        <Field name="rider_up" label="Rider on, let up from below">
          <Input placeholder="583" />
        </Field>
        <Field name="weight" label="Rider’s weight, dressed to ride">
          <Input placeholder="80 kg, if known" />
        </Field>
      </Ask>
      {asked.data && <Says answer={asked.data} />}
    </Dialog>
  );
}
