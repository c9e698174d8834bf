import { useRef, useState, type PointerEvent } from "react";
import type { Shape } from "../api/client";
import { colour } from "../ui/theme";
import { clock } from "./clock";
import { wishFor, type Wish } from "./wishes";
import planCss from "./plan.module.css";

type Job = Shape["JobShape"];

const LEFT = 118;
const WIDE = 860;
const RIGHT = 24;
const LANE = 44;
const TOP = 26;
const WHOLE = "the bike";
const HANDS = [colour.action, "#8a5a12", "#5b4a78", "#3c6b2f"];

function lanesOf(jobs: Job[]): string[] {
  return [WHOLE, ...new Set(jobs.map((job) => job.group).filter(Boolean))];
}

function Axis({ minutes, x, tall }: { minutes: number; x: (m: number) => number; tall: number }) {
  const step = minutes > 240 ? 60 : minutes > 90 ? 30 : 15;
  const marks = Array.from({ length: Math.floor(minutes / step) + 1 }, (_, n) => n * step);
  return (
    <g fontSize="13" fill={colour.soft}>
      {marks.map((mark) => (
        <g key={mark}>
          <line x1={x(mark)} x2={x(mark)} y1={TOP - 6} y2={tall} stroke={colour.line} />
          <text x={x(mark)} y={14} textAnchor="middle">
            {clock(mark)}
          </text>
        </g>
      ))}
    </g>
  );
}

function Block({
  job,
  y,
  x,
  chosen,
  choose,
  grab,
}: {
  job: Job;
  y: number;
  x: (minute: number) => number;
  chosen: boolean;
  choose: () => void;
  grab: (event: PointerEvent<SVGGElement>) => void;
}) {
  const wide = Math.max(3, x(job.end) - x(job.start));
  const said = `${job.label}, ${clock(job.start)} to ${clock(job.end)}`;
  return (
    <g
      role="button"
      tabIndex={0}
      aria-label={said}
      aria-pressed={chosen}
      className={planCss.laneJob}
      onClick={choose}
      onKeyDown={(event) => {
        if (event.key === "Enter" || event.key === " ") choose();
      }}
      onPointerDown={grab}
    >
      <title>{said}</title>
      {job.free > job.end && (
        <rect
          x={x(job.end)}
          y={y + 12}
          width={x(job.free) - x(job.end)}
          height={10}
          fill="url(#waiting)"
          stroke={colour.metal}
        />
      )}
      {job.end > job.start && (
        <rect
          x={x(job.start)}
          y={y + 3}
          width={wide}
          height={28}
          rx={5}
          fill={HANDS[job.technician % HANDS.length]}
          stroke={chosen ? colour.alarm : colour.enamel}
          strokeWidth={chosen ? 4 : 1.5}
        />
      )}
    </g>
  );
}

interface Props {
  jobs: Job[];
  labels: Record<string, string>;
  minutes: number;
  chosen: string;
  choose: (id: string) => void;
  wish: (wish: Wish) => void;
}

/** A job held by the finger, and what letting it go at another minute asks for. */
function useDragged({ jobs, minutes, wish }: Props) {
  const svg = useRef<SVGSVGElement>(null);
  const [held, setHeld] = useState<{ job: Job; from: number } | null>(null);
  const minuteAt = (event: PointerEvent) => {
    const box = svg.current?.getBoundingClientRect();
    if (!box) return 0;
    const at = ((event.clientX - box.left) / box.width) * WIDE;
    return ((at - LEFT) / (WIDE - LEFT - RIGHT)) * minutes;
  };
  const drop = (event: PointerEvent) => {
    if (!held) return;
    const minute = held.job.start + minuteAt(event) - held.from;
    const asked = Math.abs(minute - held.job.start) > 2 && wishFor(jobs, held.job, minute);
    setHeld(null);
    if (asked) wish(asked);
  };
  const grab = (job: Job) => (event: PointerEvent) => setHeld({ job, from: minuteAt(event) });
  return { svg, grab, drop };
}

function Lane({ name, y }: { name: string; y: number }) {
  return (
    <>
      <text x={0} y={y + 24} fontSize="15" fill={colour.ink}>
        {name}
      </text>
      <line x1={0} x2={WIDE} y1={y + LANE - 4} y2={y + LANE - 4} stroke={colour.line} />
    </>
  );
}

/** The run order as lanes: blocks are hands-on, hatched bars are waits that run by themselves. */
export function Lanes(props: Props) {
  const { jobs, labels, minutes, chosen, choose } = props;
  const { svg, grab, drop } = useDragged(props);
  const lanes = lanesOf(jobs);
  const tall = TOP + lanes.length * LANE + 4;
  const x = (minute: number) => LEFT + (minute / Math.max(1, minutes)) * (WIDE - LEFT - RIGHT);
  return (
    <svg
      ref={svg}
      viewBox={`0 0 ${WIDE} ${tall}`}
      className={planCss.lanes}
      role="group"
      aria-label="Run order in lanes"
      onPointerUp={drop}
    >
      <defs>
        <pattern id="waiting" width="7" height="7" patternUnits="userSpaceOnUse">
          <path d="M0 7 L7 0" stroke={colour.metal} strokeWidth="1.5" />
        </pattern>
      </defs>
      <Axis minutes={minutes} x={x} tall={tall} />
      {lanes.map((lane, index) => (
        <g key={lane}>
          <Lane name={labels[lane] ?? lane} y={TOP + index * LANE} />
          {jobs
            .filter((job) => (job.group || WHOLE) === lane)
            .map((job) => (
              <Block
                key={job.id}
                job={job}
                y={TOP + index * LANE}
                x={x}
                chosen={job.id === chosen}
                choose={() => choose(job.id)}
                grab={grab(job)}
              />
            ))}
        </g>
      ))}
    </svg>
  );
}
