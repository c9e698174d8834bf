import { useQuery } from "@tanstack/react-query";
import { api, taken, type Shape } from "../api/client";
import { DASHES, ViscosityChart } from "../shelf/ViscosityChart";
import { Waiting, WentWrong } from "../workshop/States";
import { Dialog } from "../workshop/Dialog";

const SHOWN = 3;
const REFUSED = 3; // the rank of what does not go in

function useMatches(bike_id: string, reservoir: string) {
  return useQuery({
    queryKey: ["matches", bike_id, reservoir],
    queryFn: () =>
      taken(
        api.GET("/api/bikes/{bike_id}/fluids/", {
          params: { path: { bike_id }, query: { reservoir } },
        }),
      ),
  });
}

function Fluid({ fluid }: { fluid: Shape["FluidMatch"] }) {
  return (
    <li className={`match match-${fluid.rank}`}>
      <b className="match-word">{fluid.fit}</b>
      <div>
        <b>{fluid.name}</b> <span className="soft">{fluid.label}</span>
        <ul>
          {fluid.reasons.map((reason) => (
            <li key={reason.text}>
              {reason.text} <span className="soft">{reason.rule}</span>
            </li>
          ))}
          {!fluid.cold_ok && <li className="match-cold">{fluid.cold}</li>}
        </ul>
      </div>
    </li>
  );
}

/** What fits, then what is doubtful; what is refused is counted and opens on a tap. */
function Ranked({ fluids }: { fluids: Shape["FluidMatch"][] }) {
  const refused = fluids.filter((fluid) => fluid.rank === REFUSED);
  return (
    <>
      <ul className="match-list">
        {fluids
          .filter((fluid) => fluid.rank !== REFUSED)
          .map((fluid) => (
            <Fluid key={fluid.id} fluid={fluid} />
          ))}
      </ul>
      {refused.length > 0 && (
        <details className="match-refused" open={refused.length === fluids.length}>
          <summary>Refused: {refused.length}</summary>
          <ul className="match-list">
            {refused.map((fluid) => (
              <Fluid key={fluid.id} fluid={fluid} />
            ))}
          </ul>
        </details>
      )}
    </>
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
  const drawn = (found.data?.fluids ?? [])
    .filter((fluid) => fluid.curve.length > 0)
    .slice(0, Math.min(SHOWN, DASHES.length));
  return (
    <Dialog
      open
      title={`Which oil fits: ${found.data?.reservoir ?? reservoir}`}
      onCancel={close}
      footer={null}
      width={1140}
    >
      {found.isPending && <Waiting what="Holding the shelf against it" />}
      {found.isError && <WentWrong error={found.error} again={() => void found.refetch()} />}
      {found.data && (
        <div className="matches">
          <div>
            <p>
              Asked for: <b>{found.data.wanted.words}</b>
              {found.data.school && <span className="soft"> · Which oil: {found.data.school}</span>}
            </p>
            <Ranked fluids={found.data.fluids} />
          </div>
          <div>
            <ViscosityChart fluids={drawn} scales={found.data.scales} wanted={found.data.wanted} />
            <p className="soft">
              {drawn.map((fluid) => fluid.name).join(", ")}. {found.data.caveat}
            </p>
          </div>
        </div>
      )}
    </Dialog>
  );
}
