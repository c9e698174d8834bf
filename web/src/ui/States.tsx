import { Button } from "antd";
import { Link } from "react-router";
import { Refusal } from "../api/client";
import statesCss from "./states.module.css";

export function Waiting({ what }: { what: string }) {
  return (
    <div className={statesCss.state} role="status">
      <div className={statesCss.stateGlass} aria-hidden />
      <p>{what} …</p>
    </div>
  );
}

export function WentWrong({ error, again }: { error: Error; again: () => void }) {
  const said = error instanceof Refusal ? error.message : "The server does not answer.";
  return (
    <div className={statesCss.state} role="alert">
      <h2>{said}</h2>
      <p>Nothing you wrote down is lost. It is sent as soon as the server is back.</p>
      <Button type="primary" onClick={again}>
        Try again
      </Button>
    </div>
  );
}

export function NotHere() {
  return (
    <div className={statesCss.state}>
      <h2>There is nothing here under that name.</h2>
      <Link to="/">Back to the ward</Link>
    </div>
  );
}

/** What could not be fetched: nothing has that name, or something went wrong on the way. */
export function NotThere({ error, again }: { error: Error; again: () => void }) {
  if (error instanceof Refusal && error.problem.status === 404) return <NotHere />;
  return <WentWrong error={error} again={again} />;
}
