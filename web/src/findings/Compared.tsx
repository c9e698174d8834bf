import { useQuery } from "@tanstack/react-query";
import { Segmented } from "antd";
import { useState } from "react";
import { api, taken, type Shape } from "../api/client";
import { keys } from "../api/keys";
import textCss from "../ui/text.module.css";
import wearCss from "./wear.module.css";

type Claim = Shape["GroupClaim"];

const WIDE = 260;
/** Where a ratio lies on a scale from a quarter to four times. */
const at = (ratio: number) => ((Math.log2(Math.min(Math.max(ratio, 0.25), 4)) + 2) / 4) * WIDE;

/** A ratio with its interval on a scale whose middle is "as the others". */
function Ratio({ claim }: { claim: Claim }) {
  const { ratio, low, high } = claim;
  if (ratio === null || low === null || high === null) return null;
  return (
    <svg viewBox={`0 0 ${WIDE} 24`} width={WIDE} height="24" role="img" aria-label={claim.words}>
      <line x1="0" x2={WIDE} y1="12" y2="12" stroke="#d5cbb5" />
      <line x1={WIDE / 2} x2={WIDE / 2} y1="2" y2="22" stroke="#565f5d" strokeDasharray="3 3" />
      <line x1={at(low)} x2={at(high)} y1="12" y2="12" stroke="#155e63" strokeWidth="5" />
      <circle cx={at(ratio)} cy="12" r="7" fill="#155e63" />
    </svg>
  );
}

function Claims({ claims, one }: { claims: Claim[]; one: string }) {
  if (claims.length === 0) {
    return <p className={textCss.soft}>{one}: nothing to hold against each other.</p>;
  }
  return (
    <ul className={wearCss.claims}>
      {claims.map((claim) => (
        <li key={claim.name}>
          <b>{claim.name}</b>
          <Ratio claim={claim} />
          <span>{claim.words}</span>
        </li>
      ))}
    </ul>
  );
}

/** Wear by oil, and how eyes differ, in one kind of reservoir. */
export function Compared({ kinds }: { kinds: string[] }) {
  const [kind, setKind] = useState(kinds[0] ?? "");
  const { data } = useQuery({
    queryKey: keys.compared(kind),
    queryFn: () => taken(api.GET("/api/findings/compared/{kind}/", { params: { path: { kind } } })),
  });
  return (
    <section aria-label="Held against each other">
      <Segmented aria-label="Kind of reservoir" options={kinds} value={kind} onChange={setKind} />
      {data && (
        <div className={wearCss.findingsTop}>
          <div>
            <h3>Wear of steel by oil</h3>
            <Claims claims={data.fluids} one="One oil in all of them" />
            <h3>Wear of steel by how often it is changed</h3>
            <Claims claims={data.schools} one="All of them are changed alike" />
          </div>
          <div>
            <h3>How eyes differ</h3>
            {data.eyes.length === 0 && (
              <p className={textCss.soft}>Nobody has read enough of them yet.</p>
            )}
            <ul className={wearCss.claims}>
              {data.eyes.map((eye) => (
                <li key={eye.name}>
                  <b>{eye.name}</b>
                  <span>{eye.words}</span>
                </li>
              ))}
            </ul>
          </div>
        </div>
      )}
    </section>
  );
}
