import { Button } from "antd";
import { Component, type ReactNode } from "react";
import statesCss from "./states.module.css";

const CHUNK = /dynamically imported module|module script failed|ChunkLoadError|preload CSS/i;

/** Whether what went wrong is that a piece of the program could not be fetched. */
export function isMissingPiece(error: unknown): boolean {
  return error instanceof Error && CHUNK.test(`${error.name} ${error.message}`);
}

/** Stands around every view: what goes wrong in one says so and can be left, the frame stays. */
export class Boundary extends Component<
  { children: ReactNode; place: string },
  { error: Error | null; place: string }
> {
  override state = { error: null as Error | null, place: this.props.place };

  static getDerivedStateFromError(error: Error) {
    return { error };
  }

  /** Another view begins without the fault of the one before. */
  static getDerivedStateFromProps(
    props: { place: string },
    state: { error: Error | null; place: string },
  ) {
    return props.place === state.place ? null : { error: null, place: props.place };
  }

  override render() {
    const { error } = this.state;
    if (!error) return this.props.children;
    const missing = isMissingPiece(error);
    return (
      <div className={statesCss.state} role="alert">
        <h2>{missing ? "This page could not be fetched." : "This page has broken down."}</h2>
        <p>
          {missing
            ? "The network is away, or Oil Ward was renewed meanwhile. Load it again."
            : "What you wrote down is kept. Load it again; if it stays so, tell the lead."}
        </p>
        <Button type="primary" onClick={() => location.reload()}>
          Load it again
        </Button>
      </div>
    );
  }
}
