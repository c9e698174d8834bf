import { Button } from "antd";
import { Elsewhere } from "../../findings/Elsewhere";
import { partOf, type Loose } from "../../findings/reading";
import { fieldSentence } from "../../api/client";
import { Refused } from "../../ui/Refused";
import { useDraft } from "../draft";
import type { StepProps } from "../sheet";
import controlsCss from "../../ui/controls.module.css";

/** Bits that turned up after the plug was read, in the filter or on the rag: added to its reading until the
 * visit is signed. */
export function MoreSeen({
  sheet,
  step,
  problem,
  busy,
  send,
  readOnly,
}: StepProps & { readOnly: boolean }) {
  const [loose, setLoose] = useDraft<Loose[] | null>(`${sheet.id}.${step.id}.more`, null);
  if (readOnly || sheet.state !== "open") return null;
  if (loose === null) {
    return (
      <Button size="large" onClick={() => setLoose([])}>
        More was seen since
      </Button>
    );
  }
  return (
    <>
      <Elsewhere words={sheet.words} places={step.found_in} loose={loose} set={setLoose} />
      <Refused said={fieldSentence(problem, "parts")} />
      <Button
        type="primary"
        className={controlsCss.bigAction}
        disabled={busy || loose.length === 0}
        onClick={() => {
          send("also seen", { parts: loose.map(partOf) });
          setLoose(null);
        }}
      >
        Add it to the reading
      </Button>
    </>
  );
}
