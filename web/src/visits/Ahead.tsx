import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { api, taken } from "../api/client";
import { keys } from "../api/hooks";
import { timeWords } from "../workshop/days";
import type { Sheet } from "./outbox";

/** How far the visit has come: asked again when that changes, not with every entry. */
function come(sheet: Sheet): string {
  return sheet.steps.map((step) => step.status).join();
}

/** When the bike will be done, and what to do next to keep it. */
export function Ahead({ sheet }: { sheet: Sheet }) {
  const found = useQuery({
    queryKey: keys.finish(sheet.id, come(sheet)),
    queryFn: () =>
      taken(
        api.GET("/api/visits/{visit_id}/finish/", { params: { path: { visit_id: sheet.id } } }),
      ),
    enabled: sheet.state === "open" && !sheet.waits && !sheet.ready_to_sign,
    placeholderData: keepPreviousData,
    retry: false,
  });
  if (!found.data || sheet.waits || sheet.ready_to_sign) return null;
  const { at, minutes, hands_on, less, then, people } = found.data;
  return (
    <section className="ahead" aria-label="When it will be done">
      <p>
        <b>Done about {timeWords(at)}</b>, {minutes} min, {hands_on} of them work
        {people > 1 && ` for ${people}`}
        {less > 0 && `; perhaps ${less} min less`}.
      </p>
      {then.length > 0 && <p className="soft">To keep it: {then.join("; then ")}.</p>}
    </section>
  );
}
