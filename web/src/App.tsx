import { lazy, Suspense, type ComponentType } from "react";
import { Route, Routes, useLocation } from "react-router";
import type { Shape } from "./api/client";
import { useSession } from "./api/hooks";
import { Ward } from "./planning/Ward";
import { Called } from "./visits/Called";
import { LeftHere } from "./visits/LeftHere";
import { outbox, useSending } from "./visits/sending";
import { Boundary } from "./ui/Boundary";
import { Frame } from "./workshop/Frame";
import { NotHere, Waiting, WentWrong } from "./ui/States";
import { SignIn } from "./workshop/SignIn";
import { News } from "./workshop/people/News";
import { ProofAsked } from "./workshop/people/ProofAsked";
import { useHands } from "./workshop/tablets/useHands";

// how long what is on its way is waited for before somebody signs out, ms
const LAST_TRY = 3000;

/** A room that is fetched when it is entered. */
function room<P extends object>(fetch: () => Promise<ComponentType<P>>) {
  return lazy(() => fetch().then((view) => ({ default: view })));
}

const BikePage = room(() => import("./planning/BikePage").then((m) => m.BikePage));
const Bench = room(() => import("./visits/Bench").then((m) => m.Bench));
const Shelf = room(() => import("./shelf/Shelf").then((m) => m.Shelf));
const Sheets = room(() => import("./garage/Sheets").then((m) => m.Sheets));
const SheetPage = room(() => import("./garage/SheetPage").then((m) => m.SheetPage));
const PlanPage = room(() => import("./planning/PlanPage").then((m) => m.PlanPage));
const PlannedPage = room(() => import("./planning/PlanPage").then((m) => m.PlannedPage));
const CalendarPage = room(() => import("./planning/CalendarPage").then((m) => m.CalendarPage));
const BikeFormPage = room(() => import("./garage/BikeFormPage").then((m) => m.BikeFormPage));
const WearPage = room(() => import("./findings/WearPage").then((m) => m.WearPage));
const FindingsPage = room(() => import("./findings/FindingsPage").then((m) => m.FindingsPage));
const OwnPage = room(() => import("./workshop/people/OwnPage").then((m) => m.OwnPage));
const WelcomePage = room(() => import("./workshop/people/WelcomePage").then((m) => m.WelcomePage));
const WorkshopPage = room(() => import("./WorkshopPage").then((m) => m.WorkshopPage));

function Rooms({ session }: { session: Shape["Session"] }) {
  const mayWork = session.may_work;
  return (
    <Routes>
      <Route path="/" element={<Ward mayWork={mayWork} />} />
      <Route path="/bikes/:id" element={<BikePage mayWork={mayWork} />} />
      <Route path="/visits/:id" element={<Bench mayWork={mayWork} />} />
      <Route path="/shelf" element={<Shelf mayWork={mayWork} />} />
      <Route path="/sheets" element={<Sheets mayWork={mayWork} />} />
      <Route path="/sheets/:id" element={<SheetPage />} />
      <Route path="/bikes/new" element={<BikeFormPage />} />
      <Route path="/bikes/:id/card" element={<BikeFormPage />} />
      <Route path="/bikes/:id/plan" element={<PlanPage mayWork={mayWork} />} />
      <Route path="/bikes/:id/wear/:reservoir" element={<WearPage mayWork={mayWork} />} />
      <Route path="/findings" element={<FindingsPage mayWork={mayWork} />} />
      <Route path="/planned/:id" element={<PlannedPage mayWork={mayWork} />} />
      <Route path="/calendar" element={<CalendarPage mayWork={mayWork} />} />
      <Route path="/workshop/:door?" element={<WorkshopPage />} />
      <Route path="/own" element={<OwnPage />} />
      <Route path="*" element={<NotHere />} />
    </Routes>
  );
}

export function App() {
  const session = useSession();
  const { pathname } = useLocation();
  const me = session.data?.username ?? "";
  useSending(me, session.data?.name ?? "");
  useHands(session.data);
  if (pathname.startsWith("/welcome/")) {
    return (
      <Suspense fallback={<Waiting what="Opening the door" />}>
        <Routes>
          <Route path="/welcome/:token" element={<WelcomePage />} />
        </Routes>
      </Suspense>
    );
  }
  if (session.isPending) return <Waiting what="Opening the workshop" />;
  if (session.isError) {
    return <WentWrong error={session.error} again={() => void session.refetch()} />;
  }
  if (!session.data.signed_in) {
    return (
      <>
        <LeftHere me="" />
        <SignIn workshop={session.data.workshop} />
      </>
    );
  }
  return (
    <Frame session={session.data} before={() => outbox.sent(LAST_TRY)}>
      <LeftHere me={me} />
      <News session={session.data} />
      <ProofAsked />
      <Called me={session.data.id} />
      <Boundary place={pathname}>
        <Suspense fallback={<Waiting what="Opening the door" />}>
          <Rooms session={session.data} />
        </Suspense>
      </Boundary>
    </Frame>
  );
}
