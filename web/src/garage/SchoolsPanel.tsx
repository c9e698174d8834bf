import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { keep } from "../api/keep";
import { api, taken, type Shape } from "../api/client";
import { keys } from "../api/keys";
import { Choice } from "../ui/Choice";
import { Refused } from "../ui/Refused";
import { Waiting, WentWrong } from "../ui/States";
import schoolsCss from "./schools.module.css";
import textCss from "../ui/text.module.css";

function useSchools(bike: string) {
  return useQuery({
    queryKey: keys.schools(bike),
    queryFn: () => taken(api.GET("/api/schools/", { params: { query: bike ? { bike } : {} } })),
  });
}

function useChoose(bike: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: Shape["SchoolChoiceRequest"]) =>
      taken(api.PUT("/api/schools/", { body: { ...body, bike } })),
    onSuccess: async (page) => {
      await keep(client, keys.schools(bike), page);
      void client.invalidateQueries({ queryKey: keys.bikes });
      void client.invalidateQueries({ queryKey: keys.wards });
    },
    onError: () => void client.invalidateQueries({ queryKey: keys.schools(bike) }),
  });
}

const MINE: Record<string, string> = { "": "the workshop's school", bike: "this bike's school" };

type Topic = Shape["SchoolTopic"];
type Line = Shape["SchoolLine"];

/** What counts for one kind of reservoir, and the choice of another practice. */
function School({
  topic,
  line,
  mine,
  disabled,
  choose,
}: {
  topic: Topic;
  line: Line;
  mine: string | undefined;
  disabled: boolean;
  choose: (choice: Shape["SchoolChoiceRequest"]) => void;
}) {
  const own = line.whose === mine;
  const none = own ? "no choice of its own" : `${line.choice} (${line.whose})`;
  return (
    <div className={schoolsCss.school}>
      <span>{line.kind}</span>
      <Choice
        aria-label={`${topic.label}, ${line.kind}`}
        disabled={disabled}
        value={own ? line.choice : ""}
        options={[{ value: "", label: none }, ...topic.choices]}
        onChange={(choice) =>
          choose({ kind: line.kind, topic: topic.key, choice, seen: own ? line.choice : "" })
        }
      />
    </div>
  );
}

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
    <div className={schoolsCss.schools}>
      <Refused said={choose.error?.message} />
      {schools.data.topics.map((topic) => (
        <fieldset key={topic.key} className={schoolsCss.plate}>
          <legend>{topic.label}</legend>
          <p className={textCss.soft}>{topic.acts}</p>
          {topic.lines.map((line) => (
            <School
              key={line.kind}
              topic={topic}
              line={line}
              mine={mine}
              disabled={!schools.data.may_choose}
              choose={(choice) => choose.mutate(choice)}
            />
          ))}
        </fieldset>
      ))}
    </div>
  );
}
