import type { Page } from "@playwright/test";
import { asked, said } from "./api";
import { step } from "./bench";
import type { components } from "../web/src/api/schema";

type RunSheet = components["schemas"]["RunSheet"];
type Step = RunSheet["steps"][number];
type Said = [kind: string, data: object][];
type Send = (entry: object) => Promise<RunSheet>;

export const ALL_DONE = "All done. Sign it off.";
const BENCH_MINUTE = 500; // ms, as the journeys' server counts
const now = () => new Date().toISOString();
const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, Math.max(ms, 0)));

/** A pull to what is set; round a ring once to half and once to full. */
function pulled({ card, items: asked }: Step): Said {
  const items = asked.map((item) => item.code);
  const pull = { reading: card?.aim, items };
  const half = card?.wrenches[0]?.half;
  if (!card?.ring) return [["torque", pull]];
  return [
    ["torque", { ...pull, reading: half, stage: "half" }],
    ["torque", { ...pull, stage: "full" }],
  ];
}

const READINGS: Partial<Record<string, string>> = {
  "tube over bridge": "7 mm",
  preload: "4 lines",
  air: "6.8 bar",
};

/** What is found where nothing is unusual: what the sheet wants, a spring nearly new, air let off. */
function measuredOf({ measured, instruction, title }: Step): object {
  const wanted = /([\d.]+ mm) by the sheet/.exec(instruction)?.[1];
  const spring = Number(/([\d.]+) mm new/.exec(instruction)?.[1] ?? NaN) - 1;
  const of: Partial<Record<string, string>> = { "air gap": wanted, "free length": `${spring} mm` };
  const found = Object.fromEntries(
    measured.map(({ name, like }) => [name, of[name] ?? READINGS[name] ?? like]),
  );
  return { found, left: title.includes("write its air down") ? { air: "0 bar" } : {} };
}

/** What is written down at a step where nothing is unusual, as a tablet sends it. */
function usually(one: Step, sheet: RunSheet, drained: string): Said {
  const task = sheet.tasks.find((task) => task.key === one.reservoir);
  const attitude = /on the side stand/.test(one.instruction) ? "side stand" : "upright";
  const glass = { position: "0.75", attitude };
  const items = one.items.map((item) => item.code);
  const stop: Said = [["stop", {}]];
  const waited: Said = one.status === "running" ? stop : [["start", {}], ...stop];
  const usual: Partial<Record<string, Said>> = {
    check: [["confirm", { items }]],
    timer: waited,
    drain: waited,
    gate: [["answer", { value: one.options[0]?.code }]],
    amount: [["amount", { amount: drained, sure: drained }]],
    finding: [["finding", { parts: [], oil: ["dark"] }]],
    choice: [["answer", { value: one.options[0]?.code }]],
    torque: pulled(one),
    filter: [["filter", { amount: "0", items }]],
    fill: [["pour", { amount: task?.coach?.amount, closed: true }]],
    level: [["level", task?.gauge?.edge ? { sight: "runs out", attitude } : glass]],
    measure: [["measure", measuredOf(one)]],
    leaks: [["leaks", { result: "dry" }]],
  };
  return usual[one.kind] ?? [];
}

/** Writes down what is usual at a step; with its waits, where they cannot be cut short. */
async function written(one: Step, sheet: RunSheet, drained: string, send: Send): Promise<RunSheet> {
  let stands = sheet;
  if (one.not_before) await pause(Date.parse(one.not_before) - Date.now() + 100);
  for (const [kind, data] of usually(one, sheet, drained)) {
    if (kind === "stop" && one.full) await pause((one.minutes ?? 0) * BENCH_MINUTE);
    stands = await send({ id: crypto.randomUUID(), step: one.id, kind, data, at: now() });
  }
  return stands;
}

/** Takes the visit on the page to a step by what a hand usually writes down, sent as the tablet sends it: how
 * that is done on the screen is shown by the journeys that go all the way. */
export async function ahead(page: Page, title: string, drained = "0.9 l"): Promise<void> {
  await page.waitForURL(/\/visits\/[0-9a-f-]{36}$/);
  const address = page.url();
  const visit = `/api/visits/${address.split("/").at(-1) ?? ""}/`;
  // the screen has nothing to follow meanwhile
  await page.goto("about:blank");
  const send: Send = (entry) => said<RunSheet>(page, `${visit}entries/`, entry);
  let sheet = await asked<RunSheet>(page, visit);
  for (let steps = 0; steps < 60; steps += 1) {
    const one = sheet.steps.find((step) => step.id === sheet.focus);
    if (!one || one.title === title) break;
    sheet = await written(one, sheet, drained, send);
  }
  await page.goto(address);
  await step(page, title);
}
