import { clsx } from "clsx";
import { Button } from "antd";
import { useState } from "react";
import { Link } from "react-router";
import type { Shape } from "../api/client";
import { Readings } from "../garage/Readings";
import { SchoolsPanel } from "../garage/SchoolsPanel";
import { RECORDS } from "../garage/words";
import { BikeMap, MapList } from "../glass/BikeMap";
import { dayWords } from "../ui/days";
import { Dialog } from "../ui/Dialog";
import { OdometerDialog } from "./OdometerDialog";
import { Photos } from "./Photos";
import bikeCss from "./bike.module.css";
import textCss from "../ui/text.module.css";

type Page = Shape["BikePage"];
type Open = "odometer" | "readings" | "schools" | null;

function Where({ page }: { page: Page }) {
  const plugs = page.plugs.map((plug) => ({
    id: `${plug.reservoir}/${plug.part}`,
    label: `${plug.reservoir_label}, ${plug.part}`,
    role: plug.role,
    x: plug.x,
    y: plug.y,
    more: plug.torque,
  }));
  return (
    <>
      <BikeMap layout={page.layout} plugs={plugs} />
      {plugs.length === 0 ? (
        <p className={textCss.soft}>
          No plug has a place on the map yet. Place them on the spec sheet.
        </p>
      ) : (
        <MapList plugs={plugs} />
      )}
    </>
  );
}

function facts(page: Page): [string, string][] {
  return [
    ["Owner", page.owner],
    ["Used for", page.use_class],
    ["Plate", page.plate],
    ["Frame", page.frame_number],
    ["Built", page.year_built ? `${page.year_built}` : ""],
    ["Engine", page.engine],
    ["History", RECORDS[page.records] ?? page.records],
  ];
}

function Facts({ page, readings }: { page: Page; readings: () => void }) {
  return (
    <dl className={bikeCss.facts}>
      <dt>Odometer</dt>
      <dd className={textCss.tabular}>
        <b>{page.odometer}</b>
        {page.odometer_on && (
          <span className={textCss.soft}> read {dayWords(page.odometer_on)}</span>
        )}
        <Button type="link" className={bikeCss.factMore} onClick={readings}>
          All readings
        </Button>
      </dd>
      {facts(page)
        .filter(([, said]) => said)
        .map(([name, said]) => (
          <div key={name} className={bikeCss.fact}>
            <dt>{name}</dt>
            <dd>{said}</dd>
          </div>
        ))}
    </dl>
  );
}

/** The bike itself: where its plugs are, what it looks like, what is known of it. */
export function BikeCard({ page, mayWork }: { page: Page; mayWork: boolean }) {
  const [open, setOpen] = useState<Open>(null);
  const close = () => setOpen(null);
  return (
    <section className={clsx(bikeCss.panel, bikeCss.cardPage)} aria-label="The bike">
      <Where page={page} />
      <div className={bikeCss.cardSide}>
        <Facts page={page} readings={() => setOpen("readings")} />
        {page.notes && <p className={bikeCss.cardNotes}>{page.notes}</p>}
        {mayWork && (
          <div className={bikeCss.cardTools}>
            <Button onClick={() => setOpen("odometer")}>Read the odometer</Button>
            <Link className={textCss.linkButton} to={`/bikes/${page.id}/card`}>
              Change the card
            </Link>
          </div>
        )}
        <Button onClick={() => setOpen("schools")}>Schools for this bike</Button>
        <Photos bike={page.id} photos={page.photos} mayWork={mayWork} />
      </div>
      {open === "odometer" && <OdometerDialog page={page} close={close} />}
      {open === "readings" && <Readings bike={page.id} close={close} />}
      {open === "schools" && (
        <Dialog open title={`Schools for ${page.name}`} onCancel={close} footer={null} width={1050}>
          <SchoolsPanel bike={page.id} />
        </Dialog>
      )}
    </section>
  );
}
