import { lazy, Suspense } from "react";
import { Route, Routes } from "react-router";
import { useSession } from "./api/hooks";
import { BikePage } from "./planning/BikePage";
import { Ward } from "./planning/Ward";
import { Bench } from "./visits/Bench";
import { Frame } from "./workshop/Frame";
import { NotHere, Waiting, WentWrong } from "./workshop/States";
import { SignIn } from "./workshop/SignIn";

// rooms that are not entered every day are fetched when they are
const Shelf = lazy(() => import("./shelf/Shelf").then((m) => ({ default: m.Shelf })));
const Sheets = lazy(() => import("./garage/Sheets").then((m) => ({ default: m.Sheets })));
const SheetPage = lazy(() => import("./garage/SheetPage").then((m) => ({ default: m.SheetPage })));
const PlanPage = lazy(() => import("./planning/PlanPage").then((m) => ({ default: m.PlanPage })));
const PlannedPage = lazy(() =>
  import("./planning/PlanPage").then((m) => ({ default: m.PlannedPage })),
);
const CalendarPage = lazy(() =>
  import("./planning/CalendarPage").then((m) => ({ default: m.CalendarPage })),
);
const BikeFormPage = lazy(() =>
  import("./garage/BikeFormPage").then((m) => ({ default: m.BikeFormPage })),
);
const WorkshopPage = lazy(() =>
  import("./workshop/WorkshopPage").then((m) => ({ default: m.WorkshopPage })),
);

export function App() {
  const session = useSession();
  if (session.isPending) return <Waiting what="Opening the workshop" />;
  if (session.isError) {
    return <WentWrong error={session.error} again={() => void session.refetch()} />;
  }
  if (!session.data.signed_in) return <SignIn workshop={session.data.workshop} />;
  return (
    <Frame session={session.data}>
      <Suspense fallback={<Waiting what="Opening the door" />}>
        <Routes>
          <Route path="/" element={<Ward mayWork={session.data.may_work} />} />
          <Route path="/bikes/:id" element={<BikePage mayWork={session.data.may_work} />} />
          <Route path="/visits/:id" element={<Bench mayWork={session.data.may_work} />} />
          <Route path="/shelf" element={<Shelf mayWork={session.data.may_work} />} />
          <Route path="/sheets" element={<Sheets mayWork={session.data.may_work} />} />
          <Route path="/sheets/:id" element={<SheetPage />} />
          <Route path="/bikes/new" element={<BikeFormPage />} />
          <Route path="/bikes/:id/card" element={<BikeFormPage />} />
          <Route path="/bikes/:id/plan" element={<PlanPage mayWork={session.data.may_work} />} />
          <Route path="/planned/:id" element={<PlannedPage mayWork={session.data.may_work} />} />
          <Route path="/calendar" element={<CalendarPage mayWork={session.data.may_work} />} />
          <Route path="/workshop" element={<WorkshopPage />} />
          <Route path="*" element={<NotHere />} />
        </Routes>
      </Suspense>
    </Frame>
  );
}
