import "./bike.css";
import { Button } from "antd";
import { useState } from "react";
import { Link } from "react-router";
import type { Shape } from "../api/client";
import { PlugTip } from "../glass/PlugTip";
import { SightGlass } from "../glass/SightGlass";
import { Why } from "../workshop/Why";
import { Matches } from "./Matches";
import { OwnValue } from "./OwnValue";

type Reservoir = Shape["ReservoirPage"];
type Line = Shape["SpecLine"];

function Checked({ line }: { line: Line }) {
  if (!line.number || line.checked_by) {
    return <>{line.checked_by && `${line.entered_by}, checked by ${line.checked_by}`}</>;
  }
  return <b className="unchecked">{line.entered_by}, not checked yet</b>;
}

function SpecTable({ lines, change }: { lines: Line[]; change: ((line: Line) => void) | null }) {
  if (lines.length === 0) return null;
  return (
    <table className="spec spec-lines">
      <thead>
        <tr>
          <th scope="col">Spec sheet</th>
          <th scope="col">Manual says</th>
          <th scope="col">That is</th>
          <th scope="col">Source</th>
        </tr>
      </thead>
      <tbody>
        {lines.map((line) => (
          <tr key={line.path}>
            <td>
              {line.name}
              {line.own && <b className="own">this bike&apos;s own</b>}
            </td>
            <td className="tabular strong">
              {line.as_written}
              {change && (
                <button
                  className="own-change"
                  onClick={() => change(line)}
                  aria-label={`Differs on this bike: ${line.name}`}
                >
                  differs?
                </button>
              )}
            </td>
            <td className="tabular">{line.converted === line.as_written ? "" : line.converted}</td>
            <td className="soft">
              {line.source} <br />
              <Checked line={line} />
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
        {plug.again && <b className="rule">{plug.again}</b>}
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
            <td className="tabular strong">
              {service.took || "–"}
              {service.not_learned && (
                <p className="soft">Not learned from. {service.not_learned}</p>
              )}
            </td>
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

/** What stands against these numbers: doubts, and what the run sheet will ask for. */
function Warnings({ reservoir }: { reservoir: Reservoir }) {
  return (
    <>
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
      {reservoir.missing.length > 0 && (
        <p className="unchecked">
          Missing, the run sheet will ask: {reservoir.missing.join("; ")}.
        </p>
      )}
      {reservoir.caution && <p className="soft">{reservoir.caution}</p>}
    </>
  );
}

/** One reservoir: how it stands, what it asks for, what its plug said, what its sheet says. */
export function ReservoirPanel({
  bike,
  reservoir,
  mayWork,
  canStart,
  start,
}: {
  bike: string;
  reservoir: Reservoir;
  mayWork: boolean;
  canStart: boolean;
  start: () => void;
}) {
  const glass = reservoir.glass;
  const [matching, setMatching] = useState(false);
  const [own, setOwn] = useState<Line | null>(null);
  return (
    <section className="panel" aria-label={glass.label}>
      <div className="panel-head">
        <SightGlass
          level={glass.level}
          age={glass.age}
          state={glass.state}
          notch={glass.notch}
          size={96}
        />
        <div className="panel-words">
          <h2>{glass.label}</h2>
          <p className={`when when-${glass.state}`}>
            {glass.when} <Why reasons={glass.reasons} />
          </p>
          {glass.forecast && <p className="soft">Expected {glass.forecast}</p>}
          <p>
            {reservoir.fluid || "No fluid named"}{" "}
            <button className="why" onClick={() => setMatching(true)}>
              which oil fits?
            </button>
          </p>
          {reservoir.serves && <p className="soft">Serves {reservoir.serves}</p>}
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
          <Warnings reservoir={reservoir} />
          <SpecTable lines={reservoir.lines} change={mayWork ? setOwn : null} />
        </div>
      </div>
      {matching && <Matches bike={bike} reservoir={glass.key} close={() => setMatching(false)} />}
      {own && <OwnValue bike={bike} line={own} close={() => setOwn(null)} />}
    </section>
  );
}
