import { Button, Segmented } from "antd";
import { fieldSentence } from "../../api/client";
import { LevelGlass } from "../../glass/LevelGlass";
import { Why } from "../../workshop/Why";
import { useDraft } from "../draft";
import type { StepProps } from "../StepFocus";
import { Refused } from "../../workshop/Refused";

function Contradiction({ sheet, busy, send }: Pick<StepProps, "sheet" | "busy" | "send">) {
  const coach = sheet.coach;
  if (coach?.action !== "stop") return null;
  return (
    <div className="stop" role="alert">
      <p className="coach-words">{coach.words}</p>
      <p>
        {coach.belief} <Why reasons={coach.reasons} /> Which is it? If none, read the level again.
      </p>
      <div className="causes">
        {coach.causes.map((cause) => (
          <Button key={cause} disabled={busy} onClick={() => send("cause", { cause })}>
            {cause}
          </Button>
        ))}
      </div>
    </div>
  );
}

/** The level, dragged in the drawn glass to where the oil stands. */
export function LevelStep({ sheet, step, problem, busy, send }: StepProps) {
  const gauge = sheet.gauge;
  const draft = `${sheet.id}.${step.id}`;
  const [position, setPosition, drop] = useDraft(`${draft}.at`, 0.5);
  const [attitude, setAttitude] = useDraft(`${draft}.attitude`, "");
  const refused = fieldSentence(problem, "attitude") || fieldSentence(problem, "position");
  const read = (sight: string) => {
    drop();
    send("level", { sight, position: String(position), attitude });
  };
  return (
    <>
      <Contradiction sheet={sheet} busy={busy} send={send} />
      <div className="two">
        <LevelGlass
          position={position}
          target={gauge?.target ?? 0.75}
          stick={gauge?.name === "dipstick"}
          onChange={setPosition}
        />
        <div className="level-side">
          <p>
            Drag the oil to where it stands. The arrow shows where it should be; the marks are{" "}
            {gauge?.between} apart.
          </p>
          <span id="attitude-label">The bike stands</span>
          <Segmented
            aria-labelledby="attitude-label"
            block
            size="large"
            value={attitude}
            options={step.options}
            onChange={setAttitude}
          />
          <Refused said={refused} />
          <Button
            type="primary"
            className="big-action"
            disabled={busy}
            onClick={() => read("seen")}
          >
            Read it
          </Button>
          <div className="choices">
            <Button disabled={busy} onClick={() => read("below")}>
              Nothing to see
            </Button>
            <Button disabled={busy} onClick={() => read("above")}>
              Above the top
            </Button>
          </div>
        </div>
      </div>
    </>
  );
}
