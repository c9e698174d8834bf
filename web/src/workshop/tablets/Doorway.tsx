import { Button } from "antd";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { keep } from "../../api/keep";
import { api, taken, type Shape } from "../../api/client";
import { keys } from "../../api/keys";
import { Refused } from "../../ui/Refused";
import doorwayCss from "./doorway.module.css";
import textCss from "../../ui/text.module.css";

type Face = Shape["Face"];

const FIGURES = ["1", "2", "3", "4", "5", "6", "7", "8", "9"];
const LONGEST = 8;

/** A pad for gloves: the figures are nowhere shown, only how many there are. */
function Pad({ face, back }: { face: Face; back: () => void }) {
  const client = useQueryClient();
  const [pin, setPin] = useState("");
  const tap = useMutation({
    mutationFn: () => taken(api.POST("/api/doorway/", { body: { username: face.username, pin } })),
    onSuccess: (session) => keep(client, keys.session, session),
    onError: () => setPin(""),
  });
  const more = (figure: string) => {
    tap.reset();
    setPin((so) => (so.length < LONGEST ? so + figure : so));
  };
  const typed = (event: React.KeyboardEvent) => {
    if (/^[0-9]$/.test(event.key)) more(event.key);
    if (event.key === "Backspace") setPin((so) => so.slice(0, -1));
    if (event.key === "Enter" && event.target === event.currentTarget && pin) tap.mutate();
  };
  return (
    <section
      className={doorwayCss.pad}
      aria-label={`PIN of ${face.name}`}
      tabIndex={0}
      ref={(pad) => pad?.focus()}
      onKeyDown={typed}
    >
      <h2>{face.name}</h2>
      <p className={doorwayCss.padDots} role="status" aria-label={`${pin.length} figures`}>
        {"●".repeat(pin.length) || "PIN"}
      </p>
      <Refused said={tap.error?.message} />
      <div className={doorwayCss.padKeys}>
        {FIGURES.map((figure) => (
          <Button key={figure} onClick={() => more(figure)}>
            {figure}
          </Button>
        ))}
        <Button onClick={() => setPin("")} disabled={!pin}>
          Clear
        </Button>
        <Button onClick={() => more("0")}>0</Button>
        <Button type="primary" disabled={!pin} loading={tap.isPending} onClick={() => tap.mutate()}>
          In
        </Button>
      </div>
      <Button type="text" size="large" onClick={back}>
        Somebody else
      </Button>
    </section>
  );
}

/** What a bench's tablet shows while nobody writes on it: the names, and the PIN of the one tapped. */
export function Doorway({
  doorway,
  byPassword,
}: {
  doorway: Shape["Doorway"];
  byPassword: () => void;
}) {
  const [face, setFace] = useState<Face | null>(null);
  return (
    <main className={doorwayCss.doorway}>
      <h1>{doorway.name}</h1>
      {face ? (
        <Pad face={face} back={() => setFace(null)} />
      ) : (
        <>
          <p className={textCss.soft}>Who writes?</p>
          <div className={doorwayCss.faces}>
            {doorway.people.map((person) => (
              <Button key={person.username} onClick={() => setFace(person)}>
                {person.name}
              </Button>
            ))}
          </div>
          {doorway.people.length === 0 && (
            <p>Nobody has a PIN yet. Sign in by password, then set one under your name.</p>
          )}
          <Button type="text" size="large" onClick={byPassword}>
            Sign in by password
          </Button>
        </>
      )}
    </main>
  );
}
