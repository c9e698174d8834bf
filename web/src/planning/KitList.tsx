import type { Shape } from "../api/client";
import { Ticks } from "../ui/Ticks";
import { useDraft } from "../visits/draft";
import planCss from "./plan.module.css";
import textCss from "../ui/text.module.css";

/** What to lay out, ticked off on the tablet; ticks stay with this visit. */
export function KitList({ kit, visit }: { kit: Shape["KitShape"]; visit: string }) {
  const [ticked, setTicked] = useDraft<string[]>(`kit.${visit}`, []);
  const groups: [string, string[]][] = [
    [
      "Oil",
      kit.fluids.map((f) =>
        [`${f.fluid}, ${f.need} for ${f.what_for}: ${f.words}`, f.kept].filter(Boolean).join("; "),
      ),
    ],
    ["Seals and filters", kit.parts.map((p) => `${p.count} × ${p.name} (${p.words})`)],
    ["Torque", kit.torques.map((t) => `${t.what}, ${t.manual}: ${t.setting}`)],
    ["Tools", kit.tools],
    ["Used up", kit.consumables],
  ];
  return (
    <section className={planCss.kit} aria-label="Kit">
      <h2>Kit</h2>
      {kit.to_buy.length > 0 && (
        <p className={planCss.kitBuy}>
          <b>To buy first:</b> {kit.to_buy.join(", ")}
        </p>
      )}
      <div className={planCss.kitGroups}>
        {groups
          .filter(([, items]) => items.length > 0)
          .map(([title, items]) => (
            <div key={title}>
              <h3>{title}</h3>
              <Ticks
                items={items.map((item) => ({ code: item, words: item }))}
                ticked={ticked}
                change={setTicked}
              />
            </div>
          ))}
      </div>
      <p>
        Parts <b className={textCss.tabular}>{kit.parts_cost}</b> at the simulated counter&apos;s
        prices, of which <b className={textCss.tabular}>{kit.buying}</b> to buy; labour{" "}
        <b className={textCss.tabular}>{kit.labour}</b>, together{" "}
        <b className={textCss.tabular}>{kit.total}</b>; the flat price is{" "}
        <b className={textCss.tabular}>{kit.flat}</b>.
      </p>
    </section>
  );
}
