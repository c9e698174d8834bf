import "./bike.css";
import { Button } from "antd";
import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import type { Shape } from "../api/client";
import { useBike } from "../api/hooks";
import { SightGlass } from "../glass/SightGlass";
import { StartVisit } from "../visits/StartVisit";
import { Waiting, WentWrong } from "../workshop/States";
import { BikeCard } from "./BikeCard";
import { ReservoirPanel } from "./ReservoirPanel";

const CARD = "the bike";

function Tank({
  reservoir,
  shown,
  show,
}: {
  reservoir: Shape["ReservoirPage"];
  shown: boolean;
  show: () => void;
}) {
  const { glass } = reservoir;
  return (
    <button className={shown ? "tank tank-shown" : "tank"} aria-pressed={shown} onClick={show}>
      <SightGlass level={glass.level} age={glass.age} state={glass.state} size={28} />
      <span>{glass.label}</span>
    </button>
  );
}

function Sheet({ page }: { page: Shape["BikePage"] }) {
  return (
    <span className="soft tank-sheet">
      {page.sheet_version ? (
        <Link to={`/sheets/${page.sheet_id}`}>
          Spec sheet version {page.sheet_version}, approved by {page.sheet_approved_by}
        </Link>
      ) : (
        "No approved spec sheet"
      )}
      <br />
      The bike&apos;s own service manual comes first.
    </span>
  );
}

function Heading({ page }: { page: Shape["BikePage"] }) {
  const go = useNavigate();
  const visit = page.visit;
  return (
    <div className="heading">
      <Link to="/" className="back">
        Ward
      </Link>
      <h1>{page.name}</h1>
      <p className="heading-sum">
        {page.archived && <b>archived · </b>}
        {page.model} · {page.layout} · {page.displacement} ·{" "}
        <b className="tabular">{page.odometer}</b>
      </p>
      <Sheet page={page} />
      {!visit && page.sheet_id > 0 && (
        <Link to={`/bikes/${page.id}/plan`} className="link-button">
          Plan a visit
        </Link>
      )}
      {visit && (
        <Button type="primary" onClick={() => void go(`/visits/${visit.id}`)}>
          Go on: {visit.step}
        </Button>
      )}
    </div>
  );
}

export function BikePage({ mayWork }: { mayWork: boolean }) {
  const { id = "" } = useParams();
  const bike = useBike(id);
  const [chosen, setChosen] = useState<string | null>(null);
  const [starting, setStarting] = useState(false);
  if (bike.isPending) return <Waiting what="Rolling it in" />;
  if (bike.isError) return <WentWrong error={bike.error} again={() => void bike.refetch()} />;
  const page = bike.data;
  const shown = page.reservoirs.find((r) => r.glass.key === chosen) ?? page.reservoirs[0];
  const card = chosen === CARD || !shown;
  return (
    <>
      <Heading page={page} />
      <nav className="tank-row" aria-label="Reservoirs">
        <button
          className={card ? "tank tank-shown" : "tank"}
          aria-pressed={card}
          onClick={() => setChosen(CARD)}
        >
          <span className="tank-card">The bike</span>
        </button>
        {page.reservoirs.map((reservoir) => (
          <Tank
            key={reservoir.glass.key}
            reservoir={reservoir}
            shown={!card && reservoir === shown}
            show={() => setChosen(reservoir.glass.key)}
          />
        ))}
      </nav>
      {card ? (
        <BikeCard page={page} mayWork={mayWork} />
      ) : (
        <ReservoirPanel
          key={shown.glass.key}
          bike={id}
          reservoir={shown}
          mayWork={mayWork}
          canStart={mayWork && !page.visit && !page.archived}
          start={() => setStarting(true)}
        />
      )}
      {shown && starting && (
        <StartVisit bike={page} reservoir={shown} close={() => setStarting(false)} />
      )}
    </>
  );
}
