import { clsx } from "clsx";
import type { Task } from "./sheet";
import legsCss from "./legs.module.css";

/** In the order of the work. */
const ORDER = ["spring", "oil", "gap", "air"] as const;

/** The legs of a fork beside each other: spring, what was poured, gap, air. They are to be alike, or each as its
 * sheet says. */
export function Legs({ tasks }: { tasks: Task[] }) {
  const legs = tasks.filter((task) => task.standing.some((part) => part.leg));
  const parts = legs.flatMap((task) => task.standing.filter((part) => part.leg));
  const rows = ORDER.flatMap((leg) => parts.find((part) => part.leg === leg) ?? []);
  if (legs.length === 0) return null;
  return (
    <table className={legsCss.legs} aria-label="The legs beside each other">
      <thead>
        <tr>
          {legs.map((task) => (
            <th key={task.key} scope="col">
              {task.label}
            </th>
          ))}
        </tr>
      </thead>
      {rows.map(({ leg, part: name }) => (
        <tbody key={leg}>
          <tr>
            <th scope="rowgroup" colSpan={legs.length}>
              {name}
            </th>
          </tr>
          <tr>
            {legs.map((task) => {
              const part = task.standing.find((one) => one.leg === leg);
              return (
                <td key={task.key} className={clsx(part?.open && legsCss.open)}>
                  {part?.word ?? "–"}
                </td>
              );
            })}
          </tr>
        </tbody>
      ))}
    </table>
  );
}
