import { clsx } from "clsx";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, taken, type Shape } from "../api/client";
import { keys } from "../api/keys";
import { ViscosityChart } from "../shelf/ViscosityChart";
import { Dialog } from "../ui/Dialog";
import { Waiting, WentWrong } from "../ui/States";
import { WideDrawing } from "../ui/WideDrawing";
import bikeCss from "./bike.module.css";
import textCss from "../ui/text.module.css";

type Match = Shape["FluidMatch"];

function useMatches(bike_id: string, reservoir: string) {
  return useQuery({
    queryKey: keys.matches(bike_id, reservoir),
    queryFn: () =>
      taken(
        api.GET("/api/bikes/{bike_id}/fluids/", {
          params: { path: { bike_id }, query: { reservoir } },
        }),
      ),
  });
}

interface Hand {
  inHand: number | undefined;
  take: (fluid: number) => void;
}

function Fluid({ fluid, inHand, take }: { fluid: Match } & Hand) {
  const mine = fluid.id === inHand;
  return (
    <li
      className={clsx(bikeCss.match, bikeCss[`match-${fluid.rank}`], mine && bikeCss.matchInHand)}
    >
      <button className={bikeCss.matchName} aria-pressed={mine} onClick={() => take(fluid.id)}>
        <b className={bikeCss.matchWord}>{fluid.fit}</b>
        <span>
          <b>{fluid.name}</b> <span className={textCss.soft}>{fluid.label}</span>
        </span>
      </button>
      <ul>
        {fluid.reasons.map((reason) => (
          <li key={reason.text}>
            {reason.text} <span className={textCss.soft}>{reason.rule}</span>
          </li>
        ))}
        {!fluid.cold_ok && <li className={bikeCss.matchCold}>{fluid.cold}</li>}
      </ul>
    </li>
  );
}

/** What fits, then what is doubtful; what is refused is counted and opens on a tap. */
function Ranked({ fluids, ...hand }: { fluids: Match[] } & Hand) {
  const refused = fluids.filter((fluid) => fluid.refused);
  return (
    <>
      <ul className={bikeCss.matchList}>
        {fluids
          .filter((fluid) => !fluid.refused)
          .map((fluid) => (
            <Fluid key={fluid.id} fluid={fluid} {...hand} />
          ))}
      </ul>
      {refused.length > 0 && (
        <details className={bikeCss.matchRefused} open={refused.length === fluids.length}>
          <summary>Refused: {refused.length}</summary>
          <ul className={bikeCss.matchList}>
            {refused.map((fluid) => (
              <Fluid key={fluid.id} fluid={fluid} {...hand} />
            ))}
          </ul>
        </details>
      )}
    </>
  );
}

/** The oil in hand on the chart, with the window it has to go through. */
function Drawn({ matches, fluid }: { matches: Shape["Matches"]; fluid: Match | undefined }) {
  const line = fluid && fluid.curve.length > 0 ? [fluid] : [];
  return (
    <div className={bikeCss.matchChart}>
      <WideDrawing>
        <ViscosityChart fluids={line} scales={matches.scales} wanted={matches.wanted} />
      </WideDrawing>
      <p>
        <b>{fluid?.name}</b>
        {fluid && line.length === 0 && ": no measured viscosity to draw"}
        <span className={textCss.soft}> {matches.caveat}</span>
      </p>
    </div>
  );
}

/** Which oil goes in: the shelf held against what the reservoir asks for. */
export function Matches({
  bike,
  reservoir,
  close,
}: {
  bike: string;
  reservoir: string;
  close: () => void;
}) {
  const found = useMatches(bike, reservoir);
  const [chosen, setChosen] = useState<number>();
  const fluids = found.data?.fluids ?? [];
  const inHand = fluids.find((fluid) => fluid.id === chosen) ?? fluids[0];
  const title = `Which oil fits: ${found.data?.reservoir ?? reservoir}`;
  return (
    <Dialog open title={title} onCancel={close} footer={null} width={1140}>
      {found.isPending && <Waiting what="Holding the shelf against it" />}
      {found.isError && <WentWrong error={found.error} again={() => void found.refetch()} />}
      {found.data && (
        <div className={bikeCss.matches}>
          <div>
            <p>
              Asked for: <b>{found.data.wanted.words}</b>
              {found.data.school && (
                <span className={textCss.soft}> · Which oil: {found.data.school}</span>
              )}
            </p>
            <Ranked fluids={fluids} inHand={inHand?.id} take={setChosen} />
          </div>
          <Drawn matches={found.data} fluid={inHand} />
        </div>
      )}
    </Dialog>
  );
}
