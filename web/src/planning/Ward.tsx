import "./ward.css";
import { Button, Input, Pagination } from "antd";
import { useDeferredValue, useState } from "react";
import { Link, useNavigate } from "react-router";
import type { Shape } from "../api/client";
import { useWard } from "../api/hooks";
import { PlugTip } from "../glass/PlugTip";
import { SightGlass } from "../glass/SightGlass";
import { Countdown } from "../visits/Countdown";
import { useClock } from "../visits/useClock";
import { Refused } from "../workshop/Refused";
import { WentWrong, Waiting } from "../workshop/States";

const PAGE = 50;

function GlassCell({ glass }: { glass: Shape["Glass"] }) {
  const said = `${glass.label}: ${glass.when}`;
  return (
    <div className={`cell cell-${glass.state}`} title={said}>
      <div className="cell-drawings">
        <SightGlass
          level={glass.level}
          age={glass.age}
          state={glass.state}
          size={50}
          label={said}
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

function BikeRow({
  bike,
  columns,
  now,
}: {
  bike: Shape["WardBike"];
  columns: string[];
  now: () => number;
}) {
  const go = useNavigate();
  const visit = bike.visit;
  return (
    <tr className={visit ? "row row-open" : "row"}>
      <th scope="row">
        <Link to={`/bikes/${bike.id}`} className="row-name">
          {bike.name}
        </Link>
        <span className="soft">{bike.model}</span>
        <span className="soft tabular">{bike.odometer}</span>
      </th>
      {columns.map((column) => (
        <Column key={column} glasses={bike.glasses.filter((glass) => glass.column === column)} />
      ))}
      <td className="row-action">
        {visit ? (
          <>
            <Button type="primary" onClick={() => void go(`/visits/${visit.id}`)}>
              Go on
            </Button>
            <span className="row-step">
              {visit.reservoir}: {visit.step}
              {visit.ends_at && <Countdown endsAt={visit.ends_at} now={now} />}
            </span>
          </>
        ) : (
          <Button onClick={() => void go(`/bikes/${bike.id}`)}>Open</Button>
        )}
      </td>
    </tr>
  );
}

function Empty({ searched, mayWork }: { searched: boolean; mayWork: boolean }) {
  if (searched) {
    return (
      <div className="state">
        <h2>No bike fits that.</h2>
        <p>Try its name, make, model, year, owner or use.</p>
      </div>
    );
  }
  return (
    <div className="state">
      <h2>No bikes in the ward yet.</h2>
      <p>{mayWork ? "Ask the lead to enter the first bike." : "Nothing to look at yet."}</p>
    </div>
  );
}

function Stack({ ward, now }: { ward: Shape["Ward"]; now: () => number }) {
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
        {ward.bikes.map((bike) => (
          <BikeRow key={bike.id} bike={bike} columns={columns} now={now} />
        ))}
      </tbody>
    </table>
  );
}

export function Ward({ mayWork }: { mayWork: boolean }) {
  const [page, setPage] = useState(1);
  const [typed, setTyped] = useState("");
  const ward = useWard(page, useDeferredValue(typed.trim()));
  const now = useClock(ward.data?.now, ward.dataUpdatedAt);
  if (ward.isPending) return <Waiting what="Filling the glasses" />;
  if (ward.isError && !ward.data) {
    return <WentWrong error={ward.error} again={() => void ward.refetch()} />;
  }
  const { bikes, due, count, pages } = ward.data;
  const inShop = bikes.filter((bike) => bike.visit).length;
  return (
    <>
      <div className="heading">
        <h1>Ward</h1>
        <p className="heading-sum">
          <b>{due}</b> of {count} bikes need oil{inShop ? ` · ${inShop} in the shop` : ""}
        </p>
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
          value={typed}
          onChange={(event) => {
            setTyped(event.target.value);
            setPage(1);
          }}
        />
      </div>
      {count === 0 ? (
        <Empty searched={typed.trim() !== ""} mayWork={mayWork} />
      ) : (
        <Stack ward={ward.data} now={now} />
      )}
      {pages > 1 && (
        <Pagination
          current={page}
          pageSize={PAGE}
          total={count}
          showSizeChanger={false}
          onChange={setPage}
        />
      )}
    </>
  );
}
