import { useOutbox } from "./sending";
import type { Kept } from "./outbox";
import benchCss from "./bench.module.css";
import leftCss from "./left.module.css";

const entries = (count: number) => (count === 1 ? "1 entry" : `${count} entries`);

function byWhom(waiting: Kept[]): { by: string; who: string; count: number }[] {
  const found = new Map<string, { by: string; who: string; count: number }>();
  for (const { by, who } of waiting) {
    found.set(by, { by, who: who || by, count: (found.get(by)?.count ?? 0) + 1 });
  }
  return [...found.values()];
}

/** What lies on this device and is written down nowhere: entries of others, and what it has no room for. */
export function LeftHere({ me }: { me: string }) {
  const { waiting, homeless } = useOutbox();
  const others = byWhom(waiting.filter(({ by }) => by !== me));
  return (
    <div className={leftCss.leftHere}>
      {others.map(({ by, who, count }) => (
        <p key={by} className={benchCss.banner} role="status">
          {who}: {entries(count)} on this device, written down nowhere else. What was found or
          poured there does not show yet. It is sent as soon as {who} signs in here.
        </p>
      ))}
      {homeless > 0 && (
        <p className={benchCss.banner} role="alert">
          This device has no room left: {entries(homeless)} kept on this screen alone. Leave it open
          until it is sent.
        </p>
      )}
    </div>
  );
}
