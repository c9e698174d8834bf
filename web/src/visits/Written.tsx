import { PlugTip } from "../glass/PlugTip";
import type { Sheet } from "./outbox";
import type { Task } from "./sheet";
import wideCss from "../ui/wide.module.css";
import writtenCss from "./written.module.css";

type Cell = (task: Task) => React.ReactNode;

const oil: Cell = ({ went_in, batch }) =>
  [went_in, batch && `batch ${batch}`].filter(Boolean).join(", ");

/** What the plug was read as, drawn where there is a magnet. */
const plug: Cell = ({ verdict }) =>
  verdict && (
    <>
      {!verdict.no_magnet && <PlugTip parts={verdict.parts} level={verdict.level} size={40} />}{" "}
      {verdict.level}
    </>
  );

const AMOUNTS: [string, Cell][] = [
  ["Oil", oil],
  ["Came out", (task) => task.drained || (task.capacity && task.added && "not measured")],
  ["It took", (task) => task.added],
];

/** How one part of a reservoir stands, and by whose hand. */
function stands(part: string): Cell {
  return (task) => {
    const one = task.standing.find((standing) => standing.part === part);
    return one && [one.word, one.by].filter(Boolean).join(", ");
  };
}

function rows(tasks: Task[]): [string, Cell][] {
  const parts = new Set(tasks.flatMap((task) => task.standing.map(({ part }) => part)));
  parts.delete("Oil");
  return [
    ...AMOUNTS,
    ...[...parts].map((part): [string, Cell] => [part, stands(part)]),
    ["Read as", plug],
  ];
}

/** All that was written down of a visit, a reservoir a column. */
export function Written({ sheet }: { sheet: Sheet }) {
  const shown = rows(sheet.tasks).filter(([, cell]) => sheet.tasks.some((task) => cell(task)));
  return (
    <div className={wideCss.workshopWide}>
      <table className={writtenCss.written}>
        <caption>All written down</caption>
        <thead>
          <tr>
            <td />
            {sheet.tasks.map((task) => (
              <th key={task.key} scope="col">
                {task.label}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {shown.map(([name, cell]) => (
            <tr key={name}>
              <th scope="row">{name}</th>
              {sheet.tasks.map((task) => (
                <td key={task.key}>{cell(task)}</td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
