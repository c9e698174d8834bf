import { Button } from "antd";
import { useState } from "react";
import { Link } from "react-router";
import type { Shape } from "../api/client";
import { Readings } from "../garage/Readings";
import { SchoolsPanel } from "../garage/SchoolsPanel";
import { BikeMap } from "../glass/BikeMap";
import { OdometerDialog } from "./OdometerDialog";
import { Photos } from "./Photos";
import { Dialog } from "../workshop/Dialog";

const RECORDS: Record<string, string> = {
  "from new": "Known from new",
  some: "Some records",
  none: "No records: everything counts as due now",
};

/** The bike itself: where its plugs are, what it looks like, what is known of it. */
export function BikeCard({ page, mayWork }: { page: Shape["BikePage"]; mayWork: boolean }) {
  const [open, setOpen] = useState<"odometer" | "readings" | "schools" | null>(null);
  const plugs = page.plugs.map((plug) => ({
    id: `${plug.reservoir}/${plug.part}`,
    label: `${plug.reservoir_label}, ${plug.part}${plug.torque ? `: ${plug.torque}` : ""}`,
    role: plug.role,
    x: plug.x,
    y: plug.y,
  }));
  return (
    <section className="panel card-page" aria-label="The bike">
      <div>
        <BikeMap layout={page.layout} plugs={plugs} />
        {plugs.length === 0 && (
          <p className="soft">No plug has a place on the map yet. Place them on the spec sheet.</p>
        )}
      </div>
      <div className="card-side">
        <dl className="facts">
          <dt>Owner</dt>
          <dd>{page.owner || "–"}</dd>
          <dt>Used for</dt>
          <dd>{page.use_class}</dd>
          <dt>Odometer</dt>
          <dd className="tabular">
            {page.odometer}
            <span className="soft"> read {page.odometer_on}</span>{" "}
            <Button type="link" onClick={() => setOpen("readings")}>
              All readings
            </Button>
          </dd>
          <dt>History</dt>
          <dd>{RECORDS[page.records]}</dd>
        </dl>
        {page.notes && <p className="card-notes">{page.notes}</p>}
        {mayWork && (
          <div className="card-tools">
            <Button onClick={() => setOpen("odometer")}>Read the odometer</Button>
            <Link className="link-button" to={`/bikes/${page.id}/card`}>
              Change the card
            </Link>
          </div>
        )}
        <Button onClick={() => setOpen("schools")}>Schools for this bike</Button>
        <Photos bike={page.id} photos={page.photos} mayWork={mayWork} />
      </div>
      {open === "odometer" && <OdometerDialog page={page} close={() => setOpen(null)} />}
      {open === "readings" && <Readings bike={page.id} close={() => setOpen(null)} />}
      <Dialog
        open={open === "schools"}
        title={`Schools for ${page.name}`}
        onCancel={() => setOpen(null)}
        footer={null}
        width={1050}
      >
        <SchoolsPanel bike={page.id} />
      </Dialog>
    </section>
  );
}
