import { clsx } from "clsx";
import type { Task } from "./sheet";
import legsCss from "./legs.module.css";

/** The legs of a fork beside each other: spring, what was poured, gap, air. They are to be alike, or each as its
 * sheet says. */
export function Legs({ tasks }: { tasks: Task[] }) {
  const legs = tasks.filter((task) => task.standing.some((part) => part.leg));
  const parts = legs.flatMap((task) => task.standing.filter((part) => part.leg));
  const names = [...new Set(parts.map((part) => part.part))];
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
      {names.map((name) => (
        <tbody key={name}>
          <tr>
            <th scope="rowgroup" colSpan={legs.length}>
              {name}
            </th>
          </tr>
          <tr>
            {legs.map((task) => {
              const part = task.standing.find((one) => one.leg && one.part === name);
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
