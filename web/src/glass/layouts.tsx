import type { ReactNode } from "react";
import { colour } from "../ui/theme";

/** Cylinders as seen from the right, by kind of engine. */
const CYLINDERS: Record<string, ReactNode> = {
  single: <path d="M500 300 L488 180 L562 176 L566 296 Z" />,
  "parallel twin": <path d="M486 300 L480 190 L576 182 L584 294 Z" />,
  "V-twin": (
    <>
      <path d="M478 300 L416 196 L474 164 L528 268 Z" />
      <path d="M540 268 L586 158 L646 184 L604 300 Z" />
    </>
  ),
  boxer: (
    <>
      <circle cx="560" cy="290" r="58" />
      <circle cx="560" cy="290" r="40" />
    </>
  ),
  "in-line three": <path d="M478 300 L474 192 L586 184 L594 294 Z" />,
  "in-line four": <path d="M470 300 L470 196 L596 186 L604 294 Z" />,
  "in-line six": <path d="M464 300 L466 200 L602 188 L612 294 Z" />,
  "V-four": (
    <>
      <path d="M462 300 L410 206 L480 172 L530 268 Z" />
      <path d="M536 268 L582 166 L654 196 L608 300 Z" />
    </>
  ),
};

/** The engine from below: how wide its cases are. */
const BELOW: Record<string, ReactNode> = {
  single: <rect x="420" y="520" width="210" height="110" rx="20" />,
  "parallel twin": <rect x="400" y="500" width="240" height="150" rx="22" />,
  "V-twin": <rect x="360" y="505" width="310" height="140" rx="24" />,
  boxer: (
    <>
      <rect x="380" y="530" width="290" height="90" rx="22" />
      <rect x="500" y="462" width="100" height="66" rx="12" />
      <rect x="500" y="622" width="100" height="66" rx="12" />
    </>
  ),
  "in-line three": <rect x="400" y="492" width="236" height="166" rx="22" />,
  "in-line four": <rect x="400" y="485" width="230" height="180" rx="22" />,
  "in-line six": <rect x="404" y="472" width="222" height="206" rx="22" />,
  "V-four": <rect x="366" y="492" width="300" height="166" rx="24" />,
};

const DRIVE: Record<string, ReactNode> = {
  chain: (
    <g strokeDasharray="7 5">
      <path d="M190 302 L420 286 M190 366 L420 330" />
      <path d="M200 528 L400 528" />
    </g>
  ),
  belt: (
    <g strokeWidth="6">
      <path d="M190 306 L420 288 M190 360 L420 328" />
      <path d="M200 622 L380 622" />
    </g>
  ),
  shaft: (
    <>
      <path d="M210 320 L400 296 L400 318 L210 346 Z" />
      <circle cx="190" cy="332" r="34" />
      <path d="M220 540 L380 556 M220 556 L380 572" />
      <circle cx="196" cy="548" r="26" />
    </>
  ),
};

function Motorcycle({ engine, drive }: { engine: string; drive: string }) {
  return (
    <>
      <circle cx="190" cy="332" r="108" />
      <circle cx="812" cy="332" r="108" />
      <path d="M812 332 L716 96 M786 342 L694 104" />
      <path d="M640 92 Q700 70 742 96" />
      <path d="M690 130 L440 150 L300 176 L250 150 M440 150 L392 330 L190 332" />
      <path d="M690 130 L640 300 L610 372 L420 376" />
      <path d="M450 146 Q560 84 680 132" fill={colour.paper} />
      <path d="M250 148 Q330 120 448 148" strokeWidth="9" />
      <path d="M330 186 L300 296" strokeWidth="7" strokeDasharray="5 4" />
      <g fill={colour.enamel}>
        {DRIVE[drive]}
        {CYLINDERS[engine]}
        <path d="M396 300 Q396 268 440 268 L600 276 Q630 300 610 360 L420 366 Q396 350 396 300 Z" />
        <circle cx="440" cy="318" r="34" />
      </g>
      <path d="M40 450 L960 450" strokeWidth="2" strokeDasharray="2 8" />
      <g fill={colour.enamel}>
        <rect x="110" y="548" width="170" height="54" rx="24" />
        <rect x="730" y="552" width="170" height="46" rx="22" />
        {BELOW[engine]}
      </g>
      <path d="M280 575 L360 575 M670 575 L730 575" />
    </>
  );
}

/** A step-through: the engine swings with the rear wheel, the gear case sits at its hub. */
function Scooter() {
  return (
    <>
      <circle cx="216" cy="352" r="84" />
      <circle cx="804" cy="352" r="84" />
      <path d="M804 352 L730 120 M690 112 L748 96" />
      <path d="M730 130 L660 356 L500 368 L440 240 L200 220 Q170 240 186 268" />
      <path d="M430 236 Q330 190 206 216" strokeWidth="9" />
      <path d="M250 226 L236 330" strokeWidth="7" strokeDasharray="5 4" />
      <g fill={colour.enamel}>
        <path d="M196 324 L420 300 Q452 330 420 372 L200 386 Q170 352 196 324 Z" />
        <path d="M416 304 L486 296 L492 356 L424 366 Z" />
        <circle cx="216" cy="352" r="38" />
      </g>
      <path d="M40 450 L960 450" strokeWidth="2" strokeDasharray="2 8" />
      <g fill={colour.enamel}>
        <rect x="140" y="550" width="160" height="50" rx="22" />
        <rect x="724" y="552" width="160" height="46" rx="22" />
        <rect x="196" y="606" width="290" height="60" rx="20" />
        <circle cx="220" cy="636" r="26" />
      </g>
      <path d="M486 575 L724 575" />
    </>
  );
}

/** Whether there is a drawing of this layout. */
export function isDrawn(layout: string): boolean {
  const [engine = "", drive = ""] = layout.split(", ");
  return engine === "scooter" || (engine in CYLINDERS && engine in BELOW && drive in DRIVE);
}

/** A generic bike of a layout, from the right above and from below beneath; no word lies on it. */
export function Drawing({ layout }: { layout: string }) {
  const [engine = "", drive = ""] = layout.split(", ");
  return (
    <g fill="none" stroke={colour.metal} strokeWidth="4" strokeLinejoin="round">
      {engine === "scooter" ? <Scooter /> : <Motorcycle engine={engine} drive={drive} />}
    </g>
  );
}
