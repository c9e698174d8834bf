import { clsx } from "clsx";
import { Input } from "antd";
import { useState } from "react";
import { useNavigate } from "react-router";
import { fieldSentence, problemOf, type Shape } from "../api/client";
import { useOpenVisit } from "../api/hooks";
import { Ask, Field } from "../ui/Ask";
import { Choice } from "../ui/Choice";
import { Dialog } from "../ui/Dialog";
import { Refused } from "../ui/Refused";
import { Waiting } from "../ui/States";
import { OilChoice } from "./OilChoice";
import { bestOil } from "./oils";
import { useOffers, type Offer } from "./offers";
import { Ticks } from "../ui/Ticks";
import startCss from "./start.module.css";
import whyCss from "../ui/why.module.css";

type Chosen = Shape["NewTaskRequest"];

interface Props {
  bike: { id: string; odometer: string; odometer_unit: string; counts_hours: boolean };
  title: string;
  /** What is chosen in it to begin with. */
  chosen: Chosen[];
  cold?: string[];
  order?: string[];
  close: () => void;
}

/** One reservoir of the visit: which capacity, and which oil goes in. */
function Row({
  offer,
  task,
  change,
}: {
  offer: Offer;
  task: Chosen;
  change: (task: Chosen) => void;
}) {
  const { fluid, label } = task;
  const oil = {
    fluid: label == null ? fluid || bestOil(offer.fluids) : (fluid ?? ""),
    label: label ?? null,
  };
  return (
    <div className={startCss.startRow}>
      <b>{offer.label}</b>
      {offer.variants.length > 1 && (
        <Choice
          aria-label={`Which capacity, ${offer.label}`}
          value={task.variant ?? offer.variants[0]}
          options={offer.variants}
          onChange={(variant) => change({ ...task, variant })}
        />
      )}
      {offer.pours && (
        <div className={startCss.startOil}>
          <OilChoice
            called={`Which oil, ${offer.label}`}
            fluids={offer.fluids}
            oil={oil}
            change={(chosen) =>
              change({ ...task, fluid: chosen.fluid, label: chosen.label ?? undefined })
            }
          />
        </div>
      )}
    </div>
  );
}

/** What else could be done along with it, one tap each. */
function Others({
  offers,
  tasks,
  change,
}: {
  offers: Offer[];
  tasks: Chosen[];
  change: (tasks: Chosen[]) => void;
}) {
  const [open, setOpen] = useState(false);
  const others = offers.filter((offer) => !tasks.some((task) => task.reservoir === offer.key));
  if (others.length === 0) return null;
  if (!open) {
    return (
      <button
        type="button"
        className={clsx(whyCss.why, startCss.startOthers)}
        onClick={() => setOpen(true)}
      >
        Something else in the same visit?
      </button>
    );
  }
  return (
    <Ticks
      items={others.map(({ key, label }) => ({ code: key, words: label }))}
      ticked={[]}
      change={(picked) => {
        const added = others.filter((offer) => picked.includes(offer.key));
        change([
          ...tasks,
          ...added.map((offer) => ({ reservoir: offer.key, variant: offer.variants[0] ?? "" })),
        ]);
      }}
    />
  );
}

/** What the visit is for, and how the bike rode in: both come back at its end. */
function Owner() {
  const [open, setOpen] = useState(false);
  if (!open) {
    return (
      <button
        type="button"
        className={clsx(whyCss.why, startCss.startOthers)}
        onClick={() => setOpen(true)}
      >
        What does the owner say, how did it ride in?
      </button>
    );
  }
  return (
    <>
      <Field name="wants" label="What it is for, in the owner's words">
        <Input maxLength={500} placeholder="shifts badly cold, oil before the holidays" />
      </Field>
      <Field name="ride_in" label="How it felt on the ride in">
        <Input maxLength={500} placeholder="first gear hard, idles rough" />
      </Field>
    </>
  );
}

/** Opening a visit: the odometer, and for each reservoir which capacity and which oil. */
export function StartVisit({ bike, title, chosen, cold = [], order = [], close }: Props) {
  const go = useNavigate();
  const open = useOpenVisit();
  const offers = useOffers(bike.id);
  const [id] = useState(() => crypto.randomUUID());
  const [tasks, setTasks] = useState(chosen);
  const problem = problemOf(open.error);
  const rows = tasks.flatMap((task) => {
    const offer = offers.data?.find((one) => one.key === task.reservoir);
    return offer ? [{ offer, task }] : [];
  });
  const set = (changed: Chosen) =>
    setTasks(tasks.map((one) => (one.reservoir === changed.reservoir ? changed : one)));
  return (
    <Dialog open title={title} onCancel={close} footer={null} width={640}>
      <Ask
        initial={{ odometer: "", hours: "", wants: "", ride_in: "" }}
        send={(given, sure) =>
          open.mutate(
            {
              ...given,
              id,
              sure,
              bike: bike.id,
              cold,
              tasks,
              order: tasks.length === chosen.length ? order : [],
            },
            { onSuccess: (sheet) => void go(`/visits/${sheet.id}`) },
          )
        }
        error={open.error}
        pending={open.isPending}
        submit="Start the run sheet"
      >
        <Field name="odometer" label={`Odometer now, in ${bike.odometer_unit}`}>
          <Input size="large" inputMode="decimal" placeholder={`last time ${bike.odometer}`} />
        </Field>
        {bike.counts_hours && (
          <Field name="hours" label="Hour meter now">
            <Input size="large" />
          </Field>
        )}
        <Owner />
        {offers.data ? (
          <div className={startCss.startTasks}>
            {rows.map(({ offer, task }) => (
              <Row key={offer.key} offer={offer} task={task} change={set} />
            ))}
            <Refused said={["fluid", "label"].map((at) => fieldSentence(problem, at)).join("")} />
            <Others offers={offers.data} tasks={tasks} change={setTasks} />
          </div>
        ) : (
          <Waiting what="Looking at the shelf" />
        )}
      </Ask>
    </Dialog>
  );
}
