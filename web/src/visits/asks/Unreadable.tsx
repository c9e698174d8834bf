import { Button, Input } from "antd";
import { useState } from "react";
import { fieldSentence } from "../../api/client";
import { Refused } from "../../ui/Refused";
import type { StepProps } from "../sheet";
import asksCss from "./asks.module.css";

type Props = Pick<StepProps, "problem" | "busy" | "send"> & { edge: boolean };

/** A glass that is blind, a dipstick that is lost, a level plug nobody opens: a lead says so, and it is
 * filled by the book. */
export function Unreadable({ problem, busy, send, edge }: Props) {
  const [asking, setAsking] = useState(false);
  const [why, setWhy] = useState("");
  if (!asking) {
    return (
      <Button type="text" className={asksCss.skip} onClick={() => setAsking(true)}>
        {edge ? "Measured by the book instead" : "The gauge cannot be read"}
      </Button>
    );
  }
  return (
    <form
      className={asksCss.skipForm}
      onSubmit={(event) => {
        event.preventDefault();
        send("cause", { cause: "unreadable", words: why });
      }}
    >
      <p>All of the book goes in, measured. Nothing is learned from it. A lead says why:</p>
      <Input
        autoFocus
        aria-label="Why the gauge cannot be read"
        placeholder={edge ? "Its level plug is rounded off" : "The glass is blind"}
        maxLength={200}
        value={why}
        onChange={({ target }) => setWhy(target.value)}
      />
      <Button htmlType="submit" disabled={busy}>
        Fill by the book
      </Button>
      <Refused said={fieldSentence(problem, "cause")} />
    </form>
  );
}
