import { useQuery } from "@tanstack/react-query";
import { api, taken, type Shape } from "../api/client";
import { keys } from "../api/hooks";
import { timeWords } from "../ui/days";
import type { Sheet } from "./outbox";
import type { Step } from "./sheet";
import textCss from "../ui/text.module.css";

// ms between two looks: it is told when it changes; while nobody works, the time goes on
const LATER = 60_000;
const SOON = 3000;

type Next = Shape["NextJob"];

/** What comes next, and what it costs to leave it; while that is worked out anew, the step in focus. */
function Then({ focus, then }: { focus: Step | undefined; then: Next[] }) {
  const ready = focus?.status === "ready" ? focus.title : "";
  const [first, ...rest] = then;
  const wait = ({ label, spare }: Next) => (spare > 0 ? `${label} (can wait ${spare} min)` : label);
  if (ready && first?.label !== ready) {
    return (
      <p className={textCss.soft}>
        Next: <b>{ready}</b>.
      </p>
    );
  }
  if (!first) return null;
  return (
    <p className={textCss.soft}>
      Next: <b>{first.label}</b>
      {first.spare > 0
        ? `; it can wait ${first.spare} min`
        : "; every minute lost there makes it later"}
      .{rest.length > 0 && ` Then ${rest.map(wait).join(", ")}.`}
    </p>
  );
}

/** When the bike will be done, and what to do next to keep it. */
export function Ahead({ sheet }: { sheet: Sheet }) {
  const found = useQuery({
    queryKey: keys.finish(sheet.id),
    queryFn: () =>
      taken(
        api.GET("/api/visits/{visit_id}/finish/", { params: { path: { visit_id: sheet.id } } }),
      ),
    enabled: sheet.state === "open" && !sheet.waits && !sheet.ready_to_sign,
    refetchInterval: ({ state }) => (state.data?.at ? LATER : SOON),
    retry: false,
  });
  const held = sheet.handed_back !== "" || sheet.stops.some((stop) => stop.hold);
  if (!found.data?.at || sheet.waits || sheet.ready_to_sign || held) return null;
  const { at, minutes, hands_on, less, then, people } = found.data;
  return (
    <section aria-label="When it will be done">
      <p>
        <b>Done about {timeWords(at)}</b>, {minutes} min, {hands_on} of them work
        {people > 1 && ` for ${people}`}
        {less > 0 && `; perhaps ${less} min less`}.
      </p>
      <Then focus={sheet.steps.find(({ id }) => id === sheet.focus)} then={then} />
    </section>
  );
}
