import "./bike.css";
import { Button } from "antd";
import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import type { Shape } from "../api/client";
import { useBike } from "../api/hooks";
import { PlugTip } from "../glass/PlugTip";
import { SightGlass } from "../glass/SightGlass";
import { StartVisit } from "../visits/StartVisit";
import { Waiting, WentWrong } from "../workshop/States";
import { Why } from "../workshop/Why";

type Reservoir = Shape["ReservoirPage"];

function SpecTable({ title, lines }: { title: string; lines: Shape["SpecLine"][] }) {
  if (lines.length === 0) return null;
  return (
    <table className="spec">
      <thead>
        <tr>
          <th scope="col">{title}</th>
          <th scope="col">Manual says</th>
          <th scope="col">That is</th>
          <th scope="col">Source</th>
        </tr>
      </thead>
      <tbody>
        {lines.map((line) => (
          <tr key={line.name}>
            <td>{line.name}</td>
            <td className="tabular strong">{line.as_written}</td>
            <td className="tabular">{line.converted === line.as_written ? "" : line.converted}</td>
            <td className="soft">
              {line.source}
              <br />
              {line.checked_by ? (
                `${line.entered_by}, checked by ${line.checked_by}`
              ) : (
                <b className="unchecked">{line.entered_by}, not checked yet</b>
              )}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function PlugStrip({ findings }: { findings: Shape["Plug"][] }) {
  const [shown, setShown] = useState(0);
  const plug = findings[shown];
  if (!plug) return <p className="soft">No plug on record yet.</p>;
  return (
    <div className="strip">
      <div className="strip-tips">
        {findings.map((finding, index) => (
          <button
            key={`${finding.found_on}-${index}`}
            className={index === shown ? "tip tip-shown" : "tip"}
            onClick={() => setShown(index)}
            aria-pressed={index === shown}
          >
            <PlugTip parts={finding.parts} level={finding.level} size={56} />
            <span className="tabular">{finding.found_on.slice(0, 7)}</span>
          </button>
        ))}
      </div>
      <p>
        <b className={`verdict verdict-${plug.level}`}>{plug.level}:</b> {plug.origin}.{" "}
        {plug.action}
        {plug.rules.map((rule) => (
          <span key={rule} className="soft rule">
            {rule}
          </span>
        ))}
      </p>
    </div>
  );
}

function Services({ services }: { services: Shape["ServiceLine"][] }) {
  if (services.length === 0) return <p className="soft">No service on record.</p>;
  return (
    <table className="spec services">
      <thead>
        <tr>
          <th scope="col">Done</th>
          <th scope="col">At</th>
          <th scope="col">Came out</th>
          <th scope="col">It took</th>
          <th scope="col">With</th>
          <th scope="col">By</th>
        </tr>
      </thead>
      <tbody>
        {services.map((service) => (
          <tr key={`${service.done_on}-${service.odometer}`}>
            <td className="tabular">{service.done_on}</td>
            <td className="tabular">{service.odometer}</td>
            <td className="tabular">{service.drained || "–"}</td>
            <td className="tabular strong">{service.took || "–"}</td>
            <td>
              {service.fluid}, {service.variant}
            </td>
            <td>
              {service.visit ? (
                <Link to={`/visits/${service.visit}`}>{service.done_by}</Link>
              ) : (
                service.done_by
              )}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Panel({
  reservoir,
  canStart,
  start,
}: {
  reservoir: Reservoir;
  canStart: boolean;
  start: () => void;
}) {
  const glass = reservoir.glass;
  return (
    <section className="panel" aria-label={glass.label}>
      <div className="panel-head">
        <SightGlass level={glass.level} age={glass.age} state={glass.state} size={96} />
        <div className="panel-words">
          <h2>{glass.label}</h2>
          <p className={`when when-${glass.state}`}>
            {glass.when} <Why reasons={glass.reasons} />
          </p>
          <p>{reservoir.fluid}</p>
          {reservoir.expected_take && (
            <p>
              Really takes <b className="tabular">{reservoir.expected_take}</b>
            </p>
          )}
          {reservoir.level_check && <p className="soft">{reservoir.level_check}</p>}
        </div>
        {canStart && (
          <div className="panel-start">
            <Button type="primary" size="large" disabled={!reservoir.serviceable} onClick={start}>
              Service the {glass.label}
            </Button>
            {!reservoir.serviceable && <p className="soft">{reservoir.not_serviceable}</p>}
          </div>
        )}
      </div>
      <div className="panel-body">
        <div>
          <h3>Plug, newest first</h3>
          <PlugStrip findings={reservoir.findings} />
          <h3>Services</h3>
          <Services services={reservoir.services} />
        </div>
        <div>
          {reservoir.doubts.length > 0 && (
            <div className="doubts" role="note" aria-label="Look at these numbers again">
              <b>Look at these numbers again</b>
              <ul>
                {reservoir.doubts.map((doubt) => (
                  <li key={doubt}>{doubt}</li>
                ))}
              </ul>
            </div>
          )}
          <SpecTable title="Capacity and interval" lines={reservoir.lines} />
          <SpecTable title="Plugs and filter" lines={reservoir.plugs} />
        </div>
      </div>
    </section>
  );
}

export function BikePage({ mayWork }: { mayWork: boolean }) {
  const { id = "" } = useParams();
  const bike = useBike(id);
  const go = useNavigate();
  const [chosen, setChosen] = useState<string | null>(null);
  const [starting, setStarting] = useState(false);
  if (bike.isPending) return <Waiting what="Rolling it in" />;
  if (bike.isError) return <WentWrong error={bike.error} again={() => void bike.refetch()} />;
  const page = bike.data;
  const shown = page.reservoirs.find((r) => r.glass.key === chosen) ?? page.reservoirs[0];
  const visit = page.visit;
  return (
    <>
      <div className="heading">
        <Link to="/" className="back">
          Ward
        </Link>
        <h1>{page.name}</h1>
        <p className="heading-sum">
          {page.model} · {page.layout} · {page.displacement} ·{" "}
          <b className="tabular">{page.odometer}</b>
        </p>
        {visit && (
          <Button type="primary" onClick={() => void go(`/visits/${visit.id}`)}>
            Go on: {visit.step}
          </Button>
        )}
      </div>
      <nav className="tank-row" aria-label="Reservoirs">
        {page.reservoirs.map((reservoir) => (
          <button
            key={reservoir.glass.key}
            className={reservoir === shown ? "tank tank-shown" : "tank"}
            aria-pressed={reservoir === shown}
            onClick={() => setChosen(reservoir.glass.key)}
          >
            <SightGlass
              level={reservoir.glass.level}
              age={reservoir.glass.age}
              state={reservoir.glass.state}
              size={44}
            />
            <span>{reservoir.glass.label}</span>
          </button>
        ))}
        <span className="soft tank-sheet">
          {page.sheet_version
            ? `Spec sheet version ${page.sheet_version}, approved by ${page.sheet_approved_by}`
            : "No approved spec sheet"}
          <br />
          The bike&apos;s own service manual comes first.
        </span>
      </nav>
      {shown ? (
        <Panel
          key={shown.glass.key}
          reservoir={shown}
          canStart={mayWork && !visit}
          start={() => setStarting(true)}
        />
      ) : (
        <p className="state">No reservoirs yet: the lead has to approve a spec sheet first.</p>
      )}
      {shown && starting && (
        <StartVisit bike={page} reservoir={shown} close={() => setStarting(false)} />
      )}
    </>
  );
}
