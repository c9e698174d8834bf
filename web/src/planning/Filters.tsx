import { clsx } from "clsx";
import type { Shape } from "../api/client";
import type { WardWanted } from "../api/keys";
import { Choice } from "../ui/Choice";
import textCss from "../ui/text.module.css";
import wardCss from "./ward.module.css";

/** How many reservoirs are expected in each of the coming months, as filling tubes. */
function Months({ months }: { months: Shape["MonthLoad"][] }) {
  const most = Math.max(1, ...months.map((month) => month.count));
  return (
    <ol className={wardCss.months} aria-label="Reservoirs expected to be due, by month">
      {months.map((month) => (
        <li key={month.month} title={`${month.month}: ${month.count} due`}>
          <span className={clsx(wardCss.monthCount, textCss.tabular)}>{month.count || ""}</span>
          <span className={wardCss.monthTube} aria-hidden>
            <span style={{ height: `${(month.count / most) * 100}%` }} />
          </span>
          <span>{month.label}</span>
        </li>
      ))}
    </ol>
  );
}

function Chip({ on, set, children }: { on: boolean; set: () => void; children: string }) {
  return (
    <button className={clsx(wardCss.pick, on && wardCss.pickOn)} aria-pressed={on} onClick={set}>
      {children}
    </button>
  );
}

function Narrow({
  label,
  value,
  choices,
  choose,
}: {
  label: string;
  value: string | undefined;
  choices: Shape["Choice"][];
  choose: (value: string | undefined) => void;
}) {
  const options = choices.map(({ name, count }) => ({ value: name, label: `${name} (${count})` }));
  return (
    <Choice
      className={wardCss.chipChoice}
      aria-label={label}
      placeholder={label}
      allowClear
      value={value ?? ""}
      options={options}
      onChange={(chosen) => choose(chosen || undefined)}
    />
  );
}

const MONTH = 30;

/** What of the ward to show, and what the coming year brings. */
export function Filters({
  ward,
  wanted,
  change,
}: {
  ward: Shape["Ward"];
  wanted: WardWanted;
  change: (more: WardWanted) => void;
}) {
  return (
    <div className={wardCss.filters}>
      <div className={wardCss.picks} role="group" aria-label="Show">
        <Chip
          on={wanted.within === MONTH}
          set={() => change({ within: wanted.within ? undefined : MONTH })}
        >
          Due in 30 days
        </Chip>
        <Chip
          on={wanted.hold === true}
          set={() => change({ hold: wanted.hold ? undefined : true })}
        >
          On hold
        </Chip>
        <Chip
          on={wanted.shop === true}
          set={() => change({ shop: wanted.shop ? undefined : true })}
        >
          In the shop
        </Chip>
        <Narrow
          label="Any use"
          value={wanted.use}
          choices={ward.uses}
          choose={(use) => change({ use })}
        />
        <Narrow
          label="Any fluid"
          value={wanted.fluid}
          choices={ward.fluids}
          choose={(fluid) => change({ fluid })}
        />
        <Chip
          on={wanted.group === "use"}
          set={() => change({ group: wanted.group ? undefined : "use" })}
        >
          Grouped by use
        </Chip>
      </div>
      <Months months={ward.months} />
    </div>
  );
}
