import "./schools.css";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, taken, type Shape } from "../api/client";
import { Refused } from "../workshop/Refused";
import { Waiting, WentWrong } from "../workshop/States";

function useSchools(bike: string) {
  return useQuery({
    queryKey: ["schools", bike],
    queryFn: () => taken(api.GET("/api/schools/", { params: { query: bike ? { bike } : {} } })),
  });
}

function useChoose(bike: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: Shape["SchoolChoiceRequest"]) =>
      taken(api.PUT("/api/schools/", { body: { ...body, bike } })),
    onSuccess: (page) => {
      client.setQueryData(["schools", bike], page);
      void client.invalidateQueries({ queryKey: ["bike"] });
      void client.invalidateQueries({ queryKey: ["ward"] });
    },
    onError: () => void client.invalidateQueries({ queryKey: ["schools", bike] }),
  });
}

const MINE: Record<string, string> = { "": "the workshop's school", bike: "this bike's school" };

/** The practices that count, for the workshop or for one bike, and whose choice each is. */
export function SchoolsPanel({ bike = "" }: { bike?: string }) {
  const schools = useSchools(bike);
  const choose = useChoose(bike);
  if (schools.isPending) return <Waiting what="Asking the old hands" />;
  if (schools.isError) {
    return <WentWrong error={schools.error} again={() => void schools.refetch()} />;
  }
  const mine = MINE[bike ? "bike" : ""];
  return (
    <div className="schools">
      <Refused said={choose.error?.message} />
      {schools.data.topics.map((topic) => (
        <fieldset key={topic.key} className="plate">
          <legend>{topic.label}</legend>
          <p className="soft">{topic.acts}</p>
          {topic.lines.map((line) => (
            <label key={line.kind} className="school">
              <span>{line.kind}</span>
              <select
                className="plain-select"
                aria-label={`${topic.label}, ${line.kind}`}
                disabled={!schools.data.may_choose}
                value={line.whose === mine ? line.choice : ""}
                onChange={(event) =>
                  choose.mutate({
                    kind: line.kind,
                    topic: topic.key,
                    choice: event.target.value,
                    seen: line.whose === mine ? line.choice : "",
                  })
                }
              >
                <option value="">
                  {line.whose === mine ? "no choice of its own" : `${line.choice} (${line.whose})`}
                </option>
                {topic.choices.map((choice) => (
                  <option key={choice}>{choice}</option>
                ))}
              </select>
            </label>
          ))}
        </fieldset>
      ))}
    </div>
  );
}
