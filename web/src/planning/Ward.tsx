import { clsx } from "clsx";
import { Input, Pagination } from "antd";
import { Fragment, useDeferredValue, useState } from "react";
import { Link } from "react-router";
import type { Shape } from "../api/client";
import { useWard } from "../api/hooks";
import { useLiveWard } from "../api/live";
import type { WardWanted } from "../api/keys";
import { useClock } from "../visits/useClock";
import { momentWords } from "../ui/days";
import { Refused } from "../ui/Refused";
import { WentWrong, Waiting } from "../ui/States";
import { usePhone } from "../ui/useMedia";
import { Filters } from "./Filters";
import { FirstSteps } from "./FirstSteps";
import { WardList } from "./WardList";
import { BikeRow } from "./WardRow";
import pageCss from "../ui/page.module.css";
import statesCss from "../ui/states.module.css";
import textCss from "../ui/text.module.css";
import wardCss from "./ward.module.css";

const PAGE = 50;

function Empty({
  steps,
  narrowed,
  mayWork,
}: {
  steps: Shape["FirstStep"][];
  narrowed: boolean;
  mayWork: boolean;
}) {
  if (mayWork && steps.length > 0) return <FirstSteps steps={steps} />;
  if (narrowed) {
    return (
      <div className={statesCss.state}>
        <h2>No bike fits that.</h2>
        <p>Try its name, make, model, year, owner or use, or take a filter off.</p>
      </div>
    );
  }
  return (
    <div className={statesCss.state}>
      <h2>No bikes in the ward yet.</h2>
      <p>Nothing to look at yet.</p>
    </div>
  );
}

function Stack({ ward, now, group }: { ward: Shape["Ward"]; now: () => number; group: string }) {
  // a column nobody on this page has is left out; the others keep their order
  const columns = ward.columns.filter((column) =>
    ward.bikes.some((bike) => bike.glasses.some((glass) => glass.column === column)),
  );
  return (
    <table className={wardCss.ward}>
      <thead>
        <tr>
          <th scope="col">Bike</th>
          {columns.map((column) => (
            <th key={column} scope="col">
              {column}
            </th>
          ))}
          <th scope="col">
            <span className={textCss.hidden}>What to do</span>
          </th>
        </tr>
      </thead>
      <tbody>
        {ward.bikes.map((bike, index) => (
          <Fragment key={bike.id}>
            {group === "use" && bike.use_class !== ward.bikes[index - 1]?.use_class && (
              <tr className={wardCss.wardGroup}>
                <th colSpan={columns.length + 2} scope="rowgroup">
                  {bike.use_class}
                </th>
              </tr>
            )}
            <BikeRow bike={bike} columns={columns} now={now} />
          </Fragment>
        ))}
      </tbody>
    </table>
  );
}

const EMPTY: WardWanted = { search: "" };

function headline({ fleet, due, count, bikes }: Shape["Ward"]): string {
  if (fleet === 0) return "No bikes yet";
  const inShop = bikes.filter((bike) => bike.visit).length;
  const shown = count === fleet ? "" : ` · ${count} shown`;
  return `${due} of ${fleet} bikes need oil${inShop ? ` · ${inShop} in the shop` : ""}${shown}`;
}

/** Says when what is shown may be old: dates not brought forward, bikes still being worked out. */
function Rolling({ rolling }: { rolling: Shape["Rolling"] }) {
  if (rolling.late) {
    const ran = momentWords(rolling.ran_at);
    return (
      <p className={wardCss.wardFoot} role="status">
        Due dates were last brought forward on {ran}. Something is in the way: tell the lead.
      </p>
    );
  }
  if (rolling.behind === 0) return null;
  return (
    <p className={wardCss.wardFoot} role="status">
      Working out anew: {rolling.behind} {rolling.behind === 1 ? "bike" : "bikes"}.
    </p>
  );
}

function Head({
  ward,
  stale,
  mayWork,
  search,
  find,
}: {
  ward: Shape["Ward"];
  stale: boolean;
  mayWork: boolean;
  search: string;
  find: (search: string) => void;
}) {
  return (
    <div className={pageCss.heading}>
      <h1>Ward</h1>
      <p className={pageCss.headingSum}>{headline(ward)}</p>
      {stale && (
        <Refused said="The server does not answer. This is the last picture of the ward." />
      )}
      {mayWork && (
        <Link to="/bikes/new" className={clsx(textCss.linkButton, wardCss.wardNew)}>
          New bike
        </Link>
      )}
      <Input
        className={wardCss.wardSearch}
        aria-label="Find a bike"
        placeholder="Find a bike"
        allowClear
        value={search}
        onChange={(event) => find(event.target.value)}
      />
    </div>
  );
}

/** The bikes that fit: rows of glasses, on a phone a list of what needs doing. */
function Bikes({
  ward,
  wanted,
  now,
  mayWork,
}: {
  ward: Shape["Ward"];
  wanted: WardWanted;
  now: () => number;
  mayWork: boolean;
}) {
  const phone = usePhone();
  if (ward.count === 0) {
    const narrowed = Object.values(wanted).some(Boolean);
    return <Empty steps={ward.first_steps} narrowed={narrowed} mayWork={mayWork} />;
  }
  const group = wanted.group ?? "";
  if (phone) return <WardList ward={ward} now={now} group={group} />;
  return <Stack ward={ward} now={now} group={group} />;
}

/** What needs me today: every bike as a row of glasses, the most urgent first. */
export function Ward({ mayWork }: { mayWork: boolean }) {
  const [page, setPage] = useState(1);
  const [wanted, setWanted] = useState<WardWanted>(EMPTY);
  const deferred = useDeferredValue(wanted);
  const asked = { ...deferred, search: (deferred.search ?? "").trim(), page };
  const ward = useWard(asked, useLiveWard());
  const now = useClock(ward.data?.now, ward.dataUpdatedAt);
  if (ward.isPending) return <Waiting what="Filling the glasses" />;
  if (ward.isError && !ward.data) {
    return <WentWrong error={ward.error} again={() => void ward.refetch()} />;
  }
  const change = (more: WardWanted) => {
    setWanted({ ...wanted, ...more });
    setPage(1);
  };
  const { count, pages } = ward.data;
  return (
    <>
      <Head
        ward={ward.data}
        stale={ward.isError}
        mayWork={mayWork}
        search={wanted.search ?? ""}
        find={(search) => change({ search })}
      />
      {ward.data.fleet > 0 && <Filters ward={ward.data} wanted={wanted} change={change} />}
      <Bikes ward={ward.data} wanted={wanted} now={now} mayWork={mayWork} />
      {pages > 1 && (
        <Pagination
          current={page}
          pageSize={PAGE}
          total={count}
          showSizeChanger={false}
          onChange={setPage}
        />
      )}
      <Rolling rolling={ward.data.rolling} />
    </>
  );
}
