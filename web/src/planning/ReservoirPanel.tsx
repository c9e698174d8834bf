import { clsx } from "clsx";
import { Button } from "antd";
import { lazy, Suspense, useState } from "react";
import { Link } from "react-router";
import type { Shape } from "../api/client";
import { SightGlass } from "../glass/SightGlass";
import { Why } from "../ui/Why";
import { Away } from "./Away";
import { Elsewhere } from "./Elsewhere";
import { OwnValue } from "./OwnValue";
import { PlugStrip } from "../findings/PlugStrip";
import { Services, TopUps } from "./Services";
import { SpecCard } from "./SpecCard";
import { Springs } from "./Springs";
import bikeCss from "./bike.module.css";
import controlsCss from "../ui/controls.module.css";
import textCss from "../ui/text.module.css";
import whyCss from "../ui/why.module.css";

const Matches = lazy(() => import("./Matches").then((m) => ({ default: m.Matches })));

type Reservoir = Shape["ReservoirPage"];

/** What stands against these numbers: doubts, and what the run sheet will ask for. */
function Warnings({ reservoir }: { reservoir: Reservoir }) {
  return (
    <>
      {reservoir.doubts.length > 0 && (
        <div className={bikeCss.doubts} role="note" aria-label="Look at these numbers again">
          <b>Look at these numbers again</b>
          <ul>
            {reservoir.doubts.map((doubt) => (
              <li key={doubt}>{doubt}</li>
            ))}
          </ul>
        </div>
      )}
      {reservoir.missing.length > 0 && (
        <p className={textCss.unchecked}>
          Missing, the run sheet will ask: {reservoir.missing.join("; ")}.
        </p>
      )}
      {reservoir.caution && <p className={textCss.soft}>{reservoir.caution}</p>}
    </>
  );
}

/** How the reservoir stands: the glass, when it is due and why, its fluid. */
function Standing({ reservoir, match }: { reservoir: Reservoir; match: () => void }) {
  const { glass } = reservoir;
  const { level, age, state, notch } = glass;
  return (
    <>
      <SightGlass level={level} age={age} state={state} notch={notch} size={96} />
      <div className={bikeCss.panelWords}>
        <h2>{glass.label}</h2>
        <p className={clsx(bikeCss.when, bikeCss[`when-${state}`])}>
          {glass.when} <Why reasons={glass.reasons} />
        </p>
        {glass.forecast && <p className={textCss.soft}>Expected {glass.forecast}</p>}
        <p>
          {reservoir.fluid || "No fluid named"}{" "}
          <button className={whyCss.why} onClick={match}>
            which oil fits?
          </button>
        </p>
        {reservoir.serves && <p className={textCss.soft}>Serves {reservoir.serves}</p>}
        {reservoir.expected_take && (
          <p>
            Really takes <b className={textCss.tabular}>{reservoir.expected_take}</b>
          </p>
        )}
      </div>
    </>
  );
}

function Start({ reservoir, start }: { reservoir: Reservoir; start: () => void }) {
  const { serviceable, not_serviceable, glass } = reservoir;
  return (
    <div className={bikeCss.panelStart}>
      <Button type="primary" size="large" disabled={!serviceable} onClick={start}>
        {reservoir.looked_at ? "Look at" : "Service"} the {glass.label}
      </Button>
      {!serviceable && <p className={textCss.soft}>{not_serviceable}</p>}
    </div>
  );
}

/** What was done and found here, and what was done elsewhere. */
function Past({
  bike,
  reservoir,
  tell,
}: {
  bike: Shape["BikePage"];
  reservoir: Reservoir;
  tell: (() => void) | null;
}) {
  return (
    <div>
      <h3>{reservoir.looked_at ? "What was out of order, newest first" : "Plug, newest first"}</h3>
      <PlugStrip
        bike={bike.id}
        findings={reservoir.findings}
        mayWork={tell !== null}
        covered={bike.visit !== null}
      />
      {reservoir.findings.length > 0 && !reservoir.looked_at && (
        <Link
          to={`/bikes/${bike.id}/wear/${encodeURIComponent(reservoir.glass.key)}`}
          className={textCss.linkButton}
        >
          Over distance
        </Link>
      )}
      <h3>Services</h3>
      <Services services={reservoir.services} />
      <TopUps lines={reservoir.top_ups} />
      {tell && (
        <Button className={controlsCss.wideChoice} onClick={tell}>
          Done elsewhere, or topped up
        </Button>
      )}
    </div>
  );
}

/** One reservoir: how it stands, what its sheet says, what its plug said, what was done. */
export function ReservoirPanel({
  bike,
  reservoir,
  mayWork,
  start,
}: {
  bike: Shape["BikePage"];
  reservoir: Reservoir;
  mayWork: boolean;
  start: (() => void) | null;
}) {
  const [open, setOpen] = useState<"matches" | "elsewhere" | null>(null);
  const [own, setOwn] = useState<Shape["SpecLine"] | null>(null);
  const close = () => setOpen(null);
  const { key, label } = reservoir.glass;
  return (
    <section className={bikeCss.panel} aria-label={label}>
      <div className={bikeCss.panelBody}>
        <div>
          <div className={bikeCss.panelHead}>
            <Standing reservoir={reservoir} match={() => setOpen("matches")} />
          </div>
          {reservoir.goes_out && <Away bike={bike.id} reservoir={reservoir} mayWork={mayWork} />}
          {start && <Start reservoir={reservoir} start={start} />}
          {mayWork && <Springs bike={bike.id} reservoir={reservoir} />}
          <Past
            bike={bike}
            reservoir={reservoir}
            tell={mayWork ? () => setOpen("elsewhere") : null}
          />
        </div>
        <div>
          <Warnings reservoir={reservoir} />
          <SpecCard reservoir={reservoir} differs={mayWork ? setOwn : null} />
        </div>
      </div>
      {open === "matches" && (
        <Suspense>
          <Matches bike={bike.id} reservoir={key} close={close} />
        </Suspense>
      )}
      {open === "elsewhere" && <Elsewhere bike={bike} reservoir={reservoir} close={close} />}
      {own && <OwnValue bike={bike.id} line={own} close={() => setOwn(null)} />}
    </section>
  );
}
