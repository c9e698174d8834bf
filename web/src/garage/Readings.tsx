import { clsx } from "clsx";
import { Button } from "antd";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, taken, type Shape } from "../api/client";
import { keys } from "../api/keys";
import { dayWords } from "../ui/days";
import { Dialog } from "../ui/Dialog";
import { Refused } from "../ui/Refused";
import { Correction } from "./Correction";
import readingsCss from "./readings.module.css";
import textCss from "../ui/text.module.css";

/** Everything ever read on a bike. A lead corrects what slipped; what was written stays beside it. */
export function Readings({ bike, close }: { bike: string; close: () => void }) {
  const [chosen, setChosen] = useState<string | null>(null);
  const { data, error } = useQuery({
    queryKey: keys.readings(bike),
    queryFn: () =>
      taken(api.GET("/api/bikes/{bike_id}/odometer/", { params: { path: { bike_id: bike } } })),
  });
  return (
    <Dialog open title="Readings of the odometer" onCancel={close} footer={null} width={760}>
      {error && <Refused said={error.message} />}
      <ol className={readingsCss.readings}>
        {data?.lines.map((line) => (
          <li key={line.id}>
            <ReadingLine line={line} />
            {data.may_correct && chosen !== line.id && (
              <Button onClick={() => setChosen(line.id)}>Correct</Button>
            )}
            {chosen === line.id && (
              <Correction bike={bike} page={data} line={line} done={() => setChosen(null)} />
            )}
          </li>
        ))}
      </ol>
      {data?.lines.length === 0 && <p className={textCss.soft}>Nothing read yet.</p>}
      {data && !data.may_correct && <p className={textCss.soft}>A lead corrects what slipped.</p>}
    </Dialog>
  );
}

function ReadingLine({ line }: { line: Shape["ReadingLine"] }) {
  return (
    <div>
      <b className={textCss.tabular}>
        {line.odometer}
        {line.hours && ` · ${line.hours}`}
      </b>{" "}
      <span className={clsx(textCss.soft, textCss.tabular)}>
        {dayWords(line.read_on)}, {line.by}
      </span>
      {line.replaced && <span> Then a new odometer was fitted.</span>}
      {line.before.length > 0 ? (
        <p className={textCss.soft}>
          Corrected: {line.reason}. It said <s>{line.before.join("; before that ")}</s>.
        </p>
      ) : (
        line.reason && <p className={textCss.soft}>So {line.reason}.</p>
      )}
    </div>
  );
}
