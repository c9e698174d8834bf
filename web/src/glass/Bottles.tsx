import { useId } from "react";
import { colour } from "../ui/theme";
import { oilTint } from "./oil";
import drawingsCss from "./drawings.module.css";

const MOST = 8;
const BODY = 92;

function Bottle({ share }: { share: number }) {
  const clip = useId();
  const outline = "M22 4 h16 v18 q14 6 14 20 v72 q0 6 -6 6 h-32 q-6 0 -6 -6 v-72 q0 -14 14 -20 z";
  return (
    <svg viewBox="0 0 60 124" width={58} height={120} aria-hidden>
      <clipPath id={clip}>
        <path d={outline} />
      </clipPath>
      <path d={outline} fill="#fffdf6" />
      <rect
        x="0"
        y={120 - BODY * share}
        width="60"
        height={BODY}
        fill={oilTint(0.05)}
        clipPath={`url(#${clip})`}
      />
      <path d={outline} fill="none" stroke={colour.ink} strokeWidth="2.5" />
      <path d="M20 4 h20" stroke={colour.ink} strokeWidth="6" />
    </svg>
  );
}

/** The bottles to pour from: whole ones, and the last one as far as it is needed. */
export function Bottles({ count }: { count: number }) {
  if (count <= 0 || count > MOST) return null;
  const shares = Array.from({ length: Math.ceil(count) }, (_, i) => Math.min(count - i, 1));
  return (
    <div className={drawingsCss.bottles} role="img" aria-label={`${count.toFixed(1)} bottles`}>
      {shares.map((share, index) => (
        <Bottle key={index} share={share} />
      ))}
    </div>
  );
}
