import { Button } from "antd";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, taken, type Shape } from "../../api/client";
import { keep } from "../../api/keep";
import { keys } from "../../api/keys";
import { Refused } from "../../ui/Refused";
import { momentWords } from "../../ui/days";
import askCss from "../../ui/ask.module.css";
import workshopCss from "../workshop.module.css";

function useSessions() {
  const client = useQueryClient();
  const { data } = useQuery({
    queryKey: keys.ownSessions,
    queryFn: () => taken(api.GET("/api/own/sessions/")),
  });
  const end = useMutation({
    mutationFn: (named: string) =>
      taken(api.DELETE("/api/own/sessions/{named}/", { params: { path: { named } } })),
    onSuccess: (left: Shape["SignedIn"][]) => keep(client, keys.ownSessions, left),
  });
  return { data, end };
}

/** Where one is signed in; any of it can be ended from here. */
export function Sessions() {
  const { data, end } = useSessions();
  if (!data) return null;
  return (
    <section className={askCss.sheetPaper} aria-label="Where you are signed in">
      <h2>Where you are signed in</h2>
      <ul className={workshopCss.sessions}>
        {data.map(({ id, device, since, here }) => (
          <li key={id}>
            <span>
              {device || "a browser"}
              {since && `, since ${momentWords(since)}`}
              {here && ", here"}
            </span>
            {!here && (
              <Button
                aria-label={`End ${device}`}
                loading={end.isPending && end.variables === id}
                onClick={() => end.mutate(id)}
              >
                End it
              </Button>
            )}
          </li>
        ))}
      </ul>
      <Refused said={end.error?.message} />
    </section>
  );
}
