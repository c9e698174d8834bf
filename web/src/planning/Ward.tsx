import "./ward.css";
import { Input, Pagination } from "antd";
import { Fragment, useDeferredValue, useState } from "react";
import { Link } from "react-router";
import type { Shape } from "../api/client";
import { useWard, type WardWanted } from "../api/hooks";
import { PlugTip } from "../glass/PlugTip";
import { SightGlass } from "../glass/SightGlass";
import { Countdown } from "../visits/Countdown";
import { useClock } from "../visits/useClock";
import { Refused } from "../workshop/Refused";
import { WentWrong, Waiting } from "../workshop/States";
import { Filters } from "./Filters";

const PAGE = 50;

function GlassCell({ glass }: { glass: Shape["Glass"] }) {
  const ahead = glass.forecast ? `, expected ${glass.forecast}` : "";
  const said = `${glass.label}: ${glass.when}${ahead}`;
  return (
    <div className={`cell cell-${glass.state}`} title={said}>
      <div className="cell-drawings">
        <SightGlass
          level={glass.level}
          age={glass.age}
          state={glass.state}
          size={50}
          label={said}
          notch={glass.notch}
        />
        {glass.plug && (
          <PlugTip
            parts={glass.plug.parts}
            level={glass.plug.level}
            size={24}
            label={`Last plug: ${glass.plug.level}`}
          />
        )}
      </div>
      <span className="cell-when">{glass.when}</span>
    </div>
  );
}

/** Glasses of one column; two fork legs stand side by side as one, the worse one speaks. */
function Column({ glasses }: { glasses: Shape["Glass"][] }) {
  const worst = [...glasses].sort((a, b) => a.level - b.level)[0];
  return <td>{worst && <GlassCell glass={worst} />}</td>;
}

/** The one thing to do next with a bike; its name leads to everything else. */
function Action({ bike, now }: { bike: Shape["WardBike"]; now: () => number }) {
  const { visit, planned } = bike;
  if (visit) {
    return (
      <>
        <Link to={`/visits/${visit.id}`} className="link-button row-go-on">
          Go on
        </Link>
        <span className="row-step">
          {visit.reservoir}: {visit.step}
          {visit.ends_at && <Countdown endsAt={visit.ends_at} now={now} />}
        </span>
      </>
    );
  }
  if (planned) {
    return (
      <Link
        to={`/planned/${planned.id}`}
        className={planned.late ? "link-button late" : "link-button"}
      >
        Planned {planned.day}
        {planned.late && ", late"}
      </Link>
    );
  }
  return (
    <Link to={`/bikes/${bike.id}/plan`} className="link-button">
      Plan a visit
    </Link>
  );
}

function BikeRow({
  bike,
  columns,
  now,
}: {
  bike: Shape["WardBike"];
  columns: string[];
  now: () => number;
}) {
  const visit = bike.visit;
  return (
    <tr className={visit ? "row row-open" : "row"}>
      <th scope="row">
        <Link to={`/bikes/${bike.id}`} className="row-name">
          {bike.name}
        </Link>
        <span className="soft">{bike.model}</span>
        <span className="soft tabular">{bike.odometer}</span>
        {bike.hold && <b className="row-hold">On hold. {bike.hold}</b>}
      </th>
      {columns.map((column) => (
        <Column key={column} glasses={bike.glasses.filter((glass) => glass.column === column)} />
      ))}
      <td className="row-action">
        <Action bike={bike} now={now} />
      </td>
    </tr>
  );
}

function Empty({ narrowed, mayWork }: { narrowed: boolean; mayWork: boolean }) {
  if (narrowed) {
    return (
      <div className="state">
        <h2>No bike fits that.</h2>
        <p>Try its name, make, model, year, owner or use, or take a filter off.</p>
      </div>
    );
  }
  return (
    <div className="state">
      <h2>No bikes in the ward yet.</h2>
      <p>{mayWork ? "Enter the first one with “New bike”." : "Nothing to look at yet."}</p>
    </div>
  );
}

function Stack({ ward, now, group }: { ward: Shape["Ward"]; now: () => number; group: string }) {
  // a column nobody on this page has is left out; the others keep their order
  const columns = ward.columns.filter((column) =>
    ward.bikes.some((bike) => bike.glasses.some((glass) => glass.column === column)),
  );
  return (
    <table className="ward">
      <thead>
        <tr>
          <th scope="col">Bike</th>
          {columns.map((column) => (
            <th key={column} scope="col">
              {column}
            </th>
          ))}
          <th scope="col">
            <span className="hidden">What to do</span>
          </th>
        </tr>
      </thead>
      <tbody>
        {ward.bikes.map((bike, index) => (
          <Fragment key={bike.id}>
            {group === "use" && bike.use_class !== ward.bikes[index - 1]?.use_class && (
              <tr className="ward-group">
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
  const inShop = bikes.filter((bike) => bike.visit).length;
  const shown = count === fleet ? "" : ` · ${count} shown`;
  return `${due} of ${fleet} bikes need oil${inShop ? ` · ${inShop} in the shop` : ""}${shown}`;
}

/** Says when what is shown may be old: dates not brought forward, bikes still being worked out. */
function Rolling({ rolling }: { rolling: Shape["Rolling"] }) {
  if (rolling.late) {
    const ran = new Date(rolling.ran_at).toLocaleString();
    return (
      <p className="ward-foot" role="status">
        Due dates were last brought forward on {ran}. Something is in the way: tell the lead.
      </p>
    );
  }
  if (rolling.behind === 0) return null;
  return (
    <p className="ward-foot" role="status">
      Working out anew: {rolling.behind} {rolling.behind === 1 ? "bike" : "bikes"}.
    </p>
  );
}

/** What needs me today: every bike as a row of glasses, the most urgent first. */
export function Ward({ mayWork }: { mayWork: boolean }) {
  const [page, setPage] = useState(1);
  const [wanted, setWanted] = useState<WardWanted>(EMPTY);
  const deferred = useDeferredValue(wanted);
  const ward = useWard({ ...deferred, search: (deferred.search ?? "").trim(), page });
  const now = useClock(ward.data?.now, ward.dataUpdatedAt);
  if (ward.isPending) return <Waiting what="Filling the glasses" />;
  if (ward.isError && !ward.data) {
    return <WentWrong error={ward.error} again={() => void ward.refetch()} />;
  }
  const change = (more: WardWanted) => {
    setWanted({ ...wanted, ...more });
    setPage(1);
  };
  const narrowed = Object.values(wanted).some(Boolean);
  return (
    <>
      <div className="heading">
        <h1>Ward</h1>
        <p className="heading-sum">{headline(ward.data)}</p>
        {ward.isError && (
          <Refused said="The server does not answer. This is the last picture of the ward." />
        )}
        {mayWork && (
          <Link to="/bikes/new" className="link-button ward-new">
            New bike
          </Link>
        )}
        <Input
          className="ward-search"
          aria-label="Find a bike"
          placeholder="Find a bike"
          allowClear
          value={wanted.search}
          onChange={(event) => change({ search: event.target.value })}
        />
      </div>
      <Filters ward={ward.data} wanted={wanted} change={change} />
      {ward.data.count === 0 ? (
        <Empty narrowed={narrowed} mayWork={mayWork} />
      ) : (
        <Stack ward={ward.data} now={now} group={wanted.group ?? ""} />
      )}
      {ward.data.pages > 1 && (
        <Pagination
          current={page}
          pageSize={PAGE}
          total={ward.data.count}
          showSizeChanger={false}
          onChange={setPage}
        />
      )}
      <Rolling rolling={ward.data.rolling} />
    </>
  );
}
