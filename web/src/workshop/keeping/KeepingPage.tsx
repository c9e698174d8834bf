import { Descriptions } from "antd";
import { useQuery } from "@tanstack/react-query";
import { api, taken } from "../../api/client";
import { keys } from "../../api/keys";
import askCss from "../../ui/ask.module.css";
import textCss from "../../ui/text.module.css";
import { PassphraseAsked } from "./PassphraseAsked";

/** How the backups stand: their age, the room there is, and whether the last one was tried. */
export function KeepingPage() {
  const { data } = useQuery({
    queryKey: keys.keeping,
    queryFn: () => taken(api.GET("/api/keeping/")),
    refetchInterval: 60_000,
  });
  if (!data) return null;
  return (
    <section className={askCss.sheetPaper} aria-label="Backups">
      <h2>Backups</h2>
      {data.aside && <p className={textCss.refusal}>{data.aside}</p>}
      {data.kept ? (
        <>
          {data.alarm && <p className={textCss.refusal}>Something has to be done about them.</p>}
          {data.failed && <p className={textCss.refusal}>{data.failed}</p>}
          <Descriptions
            column={1}
            items={[
              { key: "last", label: "The last one", children: data.last },
              { key: "drill", label: "Tried by putting it back", children: data.drill },
              { key: "free", label: "Room for more", children: data.free },
              { key: "where", label: "Kept in", children: data.where },
              ...(data.minutes
                ? [{ key: "minutes", label: "Every minute", children: data.minutes }]
                : []),
              ...(data.passphrase && data.typed
                ? [{ key: "passphrase", label: "Passphrase", children: data.passphrase }]
                : []),
            ]}
          />
          {!data.typed && <PassphraseAsked why={data.passphrase} />}
        </>
      ) : (
        <p>
          Nobody keeps backups here by themselves. Where a workshop runs on ./ward serve, they are
          made.
        </p>
      )}
    </section>
  );
}
