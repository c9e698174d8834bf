import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useParams } from "react-router";
import { api, taken } from "../api/client";
import { keys } from "../api/keys";
import { PlugTip } from "../glass/PlugTip";
import { ShownPlug } from "./PlugStrip";
import { NotThere, Waiting } from "../ui/States";
import { axisOf, type History } from "./Chart";
import { HappenedOver } from "./HappenedOver";
import { LabOver } from "./LabOver";
import { OilOver } from "./OilOver";
import { PlugsOver } from "./PlugsOver";
import { WearOver } from "./WearOver";
import pageCss from "../ui/page.module.css";
import statesCss from "../ui/states.module.css";
import wearCss from "./wear.module.css";

const NORMAL = [{ form: "paste", matter: "steel", share: 0.2 }] as const;

/** What the owner is told, beside a plug as a healthy one looks. */
function OwnerSentence({ history }: { history: History }) {
  const newest = history.points.at(-1);
  if (!newest) return null;
  return (
    <section className={wearCss.ownerWords} aria-label="For the owner">
      <figure>
        <PlugTip parts={NORMAL} size={72} label="A plug as a healthy one looks" />
        <figcaption>a normal plug</figcaption>
      </figure>
      <figure>
        <PlugTip parts={newest.parts} level={newest.level} size={72} label="The newest plug" />
        <figcaption>this one</figcaption>
      </figure>
      <p>
        <b>For the owner</b> {history.owner}
      </p>
    </section>
  );
}

function Drawn({ history, mayWork }: { history: History; mayWork: boolean }) {
  const [chosen, setChosen] = useState(history.points.at(-1)?.id ?? "");
  const plug = history.plugs.find(({ id }) => id === chosen);
  const axis = axisOf(history);
  return (
    <>
      <OwnerSentence history={history} />
      <div className={wearCss.wear}>
        <div>
          <PlugsOver history={history} axis={axis} chosen={chosen} choose={setChosen} />
          <HappenedOver history={history} axis={axis} />
          {history.series.map((series) => (
            <WearOver key={series.matter} history={history} series={series} axis={axis} />
          ))}
          <OilOver history={history} axis={axis} />
          <LabOver
            bike={history.bike_id}
            reservoir={history.reservoir}
            axis={axis}
            mayWork={mayWork}
          />
        </div>
        {plug && (
          <aside className={wearCss.wearChosen} aria-label="The chosen finding">
            <PlugTip parts={plug.parts} level={plug.level} size={140} label="The plug as read" />
            <ShownPlug bike={history.bike_id} plug={plug} mayWork={mayWork} />
          </aside>
        )}
      </div>
    </>
  );
}

/** One reservoir over distance: its plugs, the chance that something grows, its wear, its oil. */
export function WearPage({ mayWork }: { mayWork: boolean }) {
  const { id = "", reservoir = "" } = useParams();
  const {
    data: history,
    error,
    refetch,
  } = useQuery({
    queryKey: keys.wear(id, reservoir),
    queryFn: () =>
      taken(
        api.GET("/api/bikes/{bike_id}/wear/{reservoir}/", {
          params: { path: { bike_id: id, reservoir } },
        }),
      ),
  });
  if (!history) {
    if (error) return <NotThere error={error} again={() => void refetch()} />;
    return <Waiting what="Laying the plugs out" />;
  }
  return (
    <>
      <div className={pageCss.heading}>
        <Link to={`/bikes/${history.bike_id}`} className={pageCss.back}>
          {history.bike}
        </Link>
        <h1 className={wearCss.wearHeading}>{history.label} over distance</h1>
      </div>
      {history.points.length === 0 ? (
        <div className={statesCss.state}>
          <h2>No plug on record yet.</h2>
          <p>The first one stands here once its visit is signed.</p>
        </div>
      ) : (
        <Drawn history={history} mayWork={mayWork} />
      )}
    </>
  );
}
