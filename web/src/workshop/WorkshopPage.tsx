import { useSession } from "../api/hooks";
import { SchoolsPanel } from "../garage/SchoolsPanel";
import { CalendarAddress } from "./CalendarAddress";
import { PricesForm } from "./Prices";

/** The workshop's own page: its prices, and the practices it chose. */
export function WorkshopPage() {
  const session = useSession();
  return (
    <>
      <div className="heading">
        <h1>Workshop</h1>
        <p className="heading-sum">
          {session.data?.workshop}. Schools are practices chosen once, per reservoir: common
          practice, no source; the manual and published classes always come first.
        </p>
      </div>
      <PricesForm lead={session.data?.role === "lead"} />
      {session.data?.role === "lead" && <CalendarAddress />}
      <SchoolsPanel />
    </>
  );
}
