import { Button, Popover } from "antd";
import { useState, type ReactNode } from "react";
import { Link, NavLink } from "react-router";
import type { Shape } from "../api/client";
import { useSignOut } from "../api/hooks";
import { QuickSum } from "./QuickSum";
import { useNarrow } from "../ui/useMedia";
import frameCss from "./frame.module.css";
import pageCss from "../ui/page.module.css";

const ROOMS = [
  ["/", "Ward"],
  ["/findings", "Findings"],
  ["/calendar", "Calendar"],
  ["/shelf", "Shelf"],
  ["/sheets", "Spec sheets"],
  ["/workshop", "Workshop"],
] as const;

function Rooms() {
  return (
    <nav className={frameCss.barNav} aria-label="Rooms">
      {ROOMS.map(([to, name]) => (
        <NavLink key={to} to={to} end={to === "/"}>
          {name}
        </NavLink>
      ))}
    </nav>
  );
}

/** Who is signed in, and the way out; behind one button where there is little room. */
function Who({ session, before }: { session: Shape["Session"]; before: () => Promise<unknown> }) {
  const signOut = useSignOut();
  const [leaving, setLeaving] = useState(false);
  const leave = () => {
    setLeaving(true);
    void before().finally(() => signOut.mutate(undefined, { onSettled: () => setLeaving(false) }));
  };
  const narrow = useNarrow();
  const who = `${session.name}, ${session.role}`;
  const out = (
    <Button ghost={!narrow} loading={leaving} onClick={leave}>
      {session.tablet ? "Hand over" : "Sign out"}
    </Button>
  );
  if (!narrow) {
    return (
      <>
        <Link to="/own" className={frameCss.barPerson}>
          {who}
        </Link>
        {out}
      </>
    );
  }
  const content = (
    <div className={frameCss.barWho}>
      <Link to="/own">{who}</Link>
      {out}
    </div>
  );
  return (
    <Popover trigger="click" placement="bottomRight" content={content}>
      <Button ghost className={frameCss.barPerson} aria-label={who}>
        {session.name}
      </Button>
    </Popover>
  );
}

/** Says that minutes run fast here; where the bar is full it stands below. */
function Practice() {
  return (
    <span className={frameCss.barPractice} title="Minutes run fast here, for practising">
      practice clock
    </span>
  );
}

/** The house around every room. `before` is done before somebody goes out of it. */
export function Frame({
  session,
  before,
  children,
}: {
  session: Shape["Session"];
  before: () => Promise<unknown>;
  children: ReactNode;
}) {
  const narrow = useNarrow();
  return (
    <>
      <header className={frameCss.bar}>
        <Link to="/" className={frameCss.barName}>
          <img src="/glass.svg" alt="" width={30} height={30} />
          Oil Ward
        </Link>
        <Rooms />
        {session.practice && !narrow && <Practice />}
        <QuickSum />
        <Who session={session} before={before} />
      </header>
      {session.practice && narrow && (
        <div className={frameCss.practiceStrip}>
          <Practice />
        </div>
      )}
      <main className={pageCss.page}>{children}</main>
    </>
  );
}
