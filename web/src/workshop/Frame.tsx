import { Button } from "antd";
import type { ReactNode } from "react";
import { Link, NavLink } from "react-router";
import type { Shape } from "../api/client";
import { useSignOut } from "../api/hooks";
import { QuickSum } from "./QuickSum";

export function Frame({ session, children }: { session: Shape["Session"]; children: ReactNode }) {
  const signOut = useSignOut();
  return (
    <>
      <header className="bar">
        <Link to="/" className="bar-name">
          <img src="/glass.svg" alt="" width={30} height={30} />
          Oil Ward
        </Link>
        <nav className="bar-nav" aria-label="Rooms">
          <NavLink to="/" end>
            Ward
          </NavLink>
          <NavLink to="/calendar">Calendar</NavLink>
          <NavLink to="/shelf">Shelf</NavLink>
          <NavLink to="/sheets">Spec sheets</NavLink>
          <NavLink to="/workshop">Workshop</NavLink>
        </nav>
        {session.practice && (
          <span className="bar-practice" title="Minutes run fast here, for practising">
            practice clock
          </span>
        )}
        <QuickSum />
        <span className="bar-person">
          {session.name}, {session.role}
        </span>
        <Button ghost onClick={() => signOut.mutate()}>
          Sign out
        </Button>
      </header>
      <main className="page">{children}</main>
    </>
  );
}
