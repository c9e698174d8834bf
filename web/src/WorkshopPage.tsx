import { NavLink, useParams } from "react-router";
import type { ReactNode } from "react";
import { useMay, useSession } from "./api/hooks";
import { SchoolsPanel } from "./garage/SchoolsPanel";
import { OwnersList } from "./planning/owners/OwnersList";
import { AuditList } from "./workshop/audit/AuditList";
import { CalendarAddress } from "./workshop/CalendarAddress";
import { KeepingPage } from "./workshop/keeping/KeepingPage";
import { PeopleList } from "./workshop/people/PeopleList";
import { SettingsForm } from "./workshop/Settings";
import { TabletList } from "./workshop/tablets/TabletList";
import pageCss from "./ui/page.module.css";
import workshopCss from "./workshop/workshop.module.css";

const DOORS = [
  { key: "", label: "Practice and prices" },
  { key: "people", label: "People" },
  { key: "tablets", label: "Tablets" },
  { key: "owners", label: "Owners" },
  { key: "audit", label: "Who changed what" },
  { key: "keeping", label: "Backups" },
];

function Practice({ lead }: { lead: boolean }) {
  return (
    <>
      <SettingsForm lead={lead} />
      {lead && <CalendarAddress />}
      <SchoolsPanel />
    </>
  );
}

/** The workshop's own page: its prices and practices, and, for a lead, who works here and with what. */
export function WorkshopPage() {
  const session = useSession();
  const { door = "" } = useParams();
  const lead = useMay("lead");
  const behind: Record<string, ReactNode> = {
    people: <PeopleList />,
    tablets: <TabletList />,
    owners: <OwnersList />,
    audit: <AuditList />,
    keeping: <KeepingPage />,
  };
  return (
    <>
      <div className={pageCss.heading}>
        <h1>Workshop</h1>
        <p className={pageCss.headingSum}>
          {session.data?.workshop}. Schools are practices chosen once, per reservoir: common
          practice, no source; the manual and published classes always come first.
        </p>
      </div>
      {lead && (
        <nav className={workshopCss.workshopDoors} aria-label="What of the workshop">
          {DOORS.map(({ key, label }) => (
            <NavLink key={key} to={key ? `/workshop/${key}` : "/workshop"} end>
              {label}
            </NavLink>
          ))}
        </nav>
      )}
      {lead && behind[door] ? behind[door] : <Practice lead={lead} />}
    </>
  );
}
