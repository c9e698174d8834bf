import { expect, type Locator, type Page } from "@playwright/test";
import { asked } from "./api";
import { dragLevel } from "./bench";
import type { components } from "../web/src/api/schema";

type RunSheet = components["schemas"]["RunSheet"];

/** How a person works the screen, and what it costs: presses, fields filled, keys. */
export interface Hand {
  press: (target: Locator) => Promise<void>;
  fill: (target: Locator, text: string) => Promise<void>;
  level: (page: Page, share: number) => Promise<void>;
  /** Takes one of a row of choices. */
  choose: (page: Page, name: string) => Promise<void>;
  actions: number;
  keys: number;
  /** Whether its wrench is one that clicks. */
  clicks: boolean;
}

function counted(press: (target: Locator) => Promise<void>): Hand {
  const hand: Hand = {
    actions: 0,
    keys: 0,
    clicks: false,
    press: async (target) => {
      await expect(target).toBeEnabled({ timeout: 60_000 });
      await press(target);
      hand.actions += 1;
    },
    fill: async (target, text) => {
      await target.fill(text);
      hand.actions += 1;
      hand.keys += text.length;
    },
    level: async (page, share) => {
      await dragLevel(page, share);
      hand.actions += 1;
    },
    choose: (page, name) => hand.press(focus(page).getByText(name, { exact: true })),
  };
  return hand;
}

export const mouse = () => counted((target) => target.click());
export const touch = () => counted((target) => target.tap());
export function keyboard(): Hand {
  const hand = counted(async (target) => {
    await target.focus();
    await target.press("Enter");
  });
  hand.level = async (page, share) => {
    const glass = page.getByRole("slider", { name: "Oil level" });
    const now = Number(await glass.getAttribute("aria-valuenow"));
    const steps = Math.round((share * 100 - now) / 5);
    const key = steps > 0 ? "ArrowUp" : "ArrowDown";
    for (let n = 0; n < Math.abs(steps); n += 1) await glass.press(key);
    // half way up is said by hand as well
    if (steps === 0) for (const back of ["ArrowUp", "ArrowDown"]) await glass.press(back);
    hand.actions += 1;
    hand.keys += Math.abs(steps);
  };
  hand.choose = async (page, name) => {
    const radio = focus(page).getByRole("radio", { name, exact: true });
    await radio.focus();
    await radio.press("Space");
    hand.actions += 1;
  };
  return hand;
}

type Act = (page: Page, hand: Hand) => Promise<void>;
const focus = (page: Page) => page.getByRole("region", { name: "Step in focus" });
const button = (page: Page, name: string | RegExp) =>
  focus(page).getByRole("button", { name, exact: typeof name === "string" });
const pressing =
  (name: string | RegExp): Act =>
  (page, hand) =>
    hand.press(button(page, name));

/** The last tick of a list says that it is done. */
async function ticks(page: Page, hand: Hand): Promise<void> {
  const atOnce = focus(page).locator("[data-at-once=true]");
  if (await atOnce.isVisible()) {
    await hand.press(atOnce);
    return;
  }
  const boxes = await focus(page).getByRole("checkbox").all();
  for (const box of boxes) {
    if ((await box.getAttribute("aria-checked")) !== "true") await hand.press(box);
  }
  if (boxes.length === 0) await hand.press(focus(page).locator(".controls_big-action").first());
}

async function measured(page: Page, hand: Hand): Promise<void> {
  const likely = button(page, /, as expected$/);
  if (await likely.isVisible()) {
    await hand.press(likely);
    return;
  }
  // what the sheet gives a leg, else a likely amount
  const given = /The sheet gives (\d+ ml)|Pour (\d+ ml)/.exec(await focus(page).innerText());
  const amount = given?.[1] ?? given?.[2] ?? "700 ml";
  await hand.fill(focus(page).getByLabel("Amount, as the jug shows it"), amount);
  await hand.press(button(page, "Write it down"));
  await written(page);
  const stands = button(page, /is right$/);
  if (await stands.isVisible()) await hand.press(stands);
}

/** What is asked for at a card besides its pull. */
async function chips(page: Page, hand: Hand): Promise<void> {
  const asked = focus(page).getByRole("group", { name: "Done with it" });
  for (const chip of await asked.getByRole("button", { pressed: false }).all()) {
    await hand.press(chip);
  }
}

/** A cover's screws, once round. */
async function ring(page: Page, hand: Hand): Promise<void> {
  await chips(page, hand);
  await hand.press(button(page, /^All \d+ (at|clicked at) /));
}

async function seconded(page: Page, hand: Hand): Promise<void> {
  await hand.fill(page.getByLabel("Who looked"), "oda");
  await hand.fill(page.getByLabel("PIN or password"), "harbour-oda");
  await hand.press(button(page, "I looked at it"));
  // until the bench knows of it what is asked here stands as it stood
  await expect(page.getByLabel("Who looked")).toHaveCount(0);
}

async function torqued(page: Page, hand: Hand): Promise<void> {
  if (await page.getByLabel("Who looked").isVisible()) {
    await seconded(page, hand);
    return;
  }
  if (await button(page, /^All \d+ /).isVisible()) {
    await ring(page, hand);
    return;
  }
  await chips(page, hand);
  const take = button(page, "Take from wrench (simulated)");
  const digital = focus(page).getByText("Digital wrench (simulated)", { exact: true });
  // a click type has clicked where it was set; so has whatever is used where a torque is too small for it
  if (hand.clicks || (!(await take.isVisible()) && !(await digital.isVisible()))) {
    await hand.press(button(page, /^Clicked at/));
    return;
  }
  if (!(await take.isVisible())) await hand.choose(page, "Digital wrench (simulated)");
  await hand.press(take);
  await expect(focus(page).getByLabel("Reading")).not.toHaveValue("");
  await hand.press(button(page, "Write it down"));
}

/** What the coach expects in all, ml; less than a litre is said in ml. */
function expects(belief: string, number: (words: RegExp, from?: string) => number): number {
  return number(/I expect ([\d.]+)/, belief) * (/ ml in all/.test(belief) ? 1 : 1000);
}

/** Where the oil would really stand, by what is in and what the coach expects; 0 low, 1 high mark. */
async function stands(page: Page): Promise<number> {
  const whose = (await page.locator(".bench_focus-bike").textContent())?.split("·")[1]?.trim();
  const visit = page.url().split("/").at(-1) ?? "";
  const sheet = await asked<RunSheet>(page, `/api/visits/${visit}/`);
  const task = sheet.tasks.find((one) => one.label === whose);
  const number = (words: RegExp, from = "") =>
    Number(words.exec(from.replaceAll(/[\u00a0\u202f]/g, " "))?.[1]?.replaceAll(" ", "") ?? NaN);
  const added = number(/^([\d ]+) ml/, task?.added);
  const expected = expects(task?.coach?.belief ?? "", number);
  const marks = number(/([\d ]+) ml/, task?.gauge?.marks[0]?.between);
  const share = 0.75 - (expected - added) / marks;
  return Number.isFinite(share) ? Math.min(Math.max(Math.round(share * 20) / 20, 0), 1.1) : 0.75;
}

async function read(page: Page, hand: Hand): Promise<void> {
  const runsOut = button(page, "Oil ran out");
  const edge = await runsOut.isVisible();
  if (!edge) await hand.level(page, await stands(page));
  const told = focus(page).locator(".asks_look-how").or(focus(page).locator(".bench_instruction"));
  const stand = (await told.allTextContents()).join(" ");
  const attitude = /on the side stand/.test(stand) ? "side stand" : "upright";
  const chosen = focus(page).getByRole("radio", { name: attitude });
  if (!(await chosen.isChecked())) {
    await hand.choose(page, attitude);
  }
  await hand.press(edge ? runsOut : button(page, "Read it"));
}

/** What the coach says is in; where it says nothing more, the filler is shut, or the gauge looked at. */
async function filled(page: Page, hand: Hand): Promise<void> {
  const amount = focus(page).getByLabel("Measured amount");
  if (await amount.inputValue()) {
    await hand.press(button(page, "It is in, filler closed"));
    return;
  }
  const shut = button(page, "Filler shut, run it");
  if (await shut.isVisible()) {
    await hand.press(shut);
    return;
  }
  await hand.press(button(page, "Look at the gauge"));
  await read(page, hand);
}

const USUALLY: [RegExp, string][] = [
  [/front|rear/, "2.4 bar"],
  [/compression|rebound/, "9 clicks"],
  [/preload/, "4 lines"],
  [/over bridge/, "7 mm"],
  [/^air/, "6.8 bar"],
  [/.*/, "0.10 mm"],
];
const usually = (label: string) => USUALLY.find(([of]) => of.test(label))?.[1] ?? "";

/** A spring nearly as long as the sheet has it new. */
async function spring(page: Page, hand: Hand): Promise<void> {
  const length = /([\d.]+) mm new/.exec(await focus(page).innerText())?.[1] ?? "";
  await hand.fill(page.getByLabel("free length, as found"), `${Number(length) - 1} mm`);
  await hand.press(button(page, "Write it down"));
}

/** What a leg held, read and let off. */
async function letOff(page: Page, hand: Hand): Promise<void> {
  await hand.fill(page.getByLabel("air, as found"), "6.8 bar");
  await hand.fill(page.getByLabel("air, as left"), "0 bar");
  await hand.press(button(page, "Write it down"));
}

async function both(page: Page, hand: Hand): Promise<void> {
  const wanted = /([\d.]+ (?:mm|in)) by the sheet/.exec(await focus(page).innerText())?.[1];
  for (const field of await focus(page)
    .getByLabel(/, as (found|read)$/)
    .all()) {
    const label = (await field.getAttribute("aria-label")) ?? "";
    await hand.fill(field, /air gap/.test(label) ? (wanted ?? "112 mm") : usually(label));
  }
  await hand.press(button(page, "Write it down"));
}

const timer: Act = async (page, hand) => {
  const start = button(page, /^(Start|Plug is out)$/);
  await hand.press(
    (await start.isVisible()) ? start : button(page, /^(Done|Done early|Dripping has stopped)$/),
  );
};

/** What is usually done at each kind of step. */
const USUAL: [RegExp, Act][] = [
  [/^(Warm it up|Run the engine|Drain the|.*hang it to drip)/, timer],
  [/^The level as it came/, pressing("Upper half")],
  [/^Start it, watch the oil light/, pressing("Out within five seconds")],
  [/^Prove the filler/, pressing("It opens")],
  [/^Measure what|: fill a little over|: measure what came out/, measured],
  [/: write its air down/, letOff],
  [/: look at its oil/, pressing("Nothing to see")],
  [/: measure its spring/, spring],
  [/: look along the tube/, pressing("Straight and smooth")],
  [/: seals and bushes/, pressing("Oil seal, dust seal and clip new")],
  [/: what stayed in it/, pressing("Looked at again: it is right so")],
  [/^Read the plug/, pressing("Usual paste")],
  [/^Look at plug and oil/, pressing("Nothing to see")],
  [/^Seal on the plug/, pressing("New seal on")],
  [/^Torque the|^Close the (?!filler)/, torqued],
  [/^Change the filter/, pressing(/^It is on/)],
  [/^(Fill|Top up)$/, filled],
  [/^Draw the excess/, pressing("Out, from the top")],
  [/^Read the level/, read],
  [/^Look for leaks/, pressing("Dry everywhere")],
  [/^Look at the/, pressing("Between the marks")],
  [
    /^(Valve clearances|Tyre pressures)|draw down to the air gap|: read its adjusters|: pump it/,
    both,
  ],
  [/^A second person looks/, seconded],
  [/.*/, ticks],
];

/** Which step is in focus and how it stands; read at one moment, for it may go at the next. */
async function place(page: Page): Promise<string> {
  const [at] = await focus(page)
    .locator("[data-step]")
    .evaluateAll((steps) =>
      steps.map((one) => JSON.stringify({ ...(one as HTMLElement).dataset })),
    );
  return at ?? "end";
}

/** Does what is usual at the step in focus, and waits until the bench goes on. */
export async function usual(page: Page, hand: Hand): Promise<string> {
  const before = await place(page);
  const title = (await page.getByRole("heading", { level: 1 }).textContent()) ?? "";
  const act = USUAL.find(([words]) => words.test(title))?.[1] ?? ticks;
  const answered = (await again(page)) ? answer(page) : Promise.resolve();
  await act(page, hand);
  await answered;
  const goesOn = async () => (await place(page)) !== before || (await again(page));
  try {
    await expect.poll(goesOn, { timeout: 60_000 }).toBe(true);
  } catch {
    throw new Error(`“${title}” does not go on: ${await focus(page).innerText()}`);
  }
  return title;
}

/** Until the server has answered and the bench shows it: a remark that stood there before says nothing
 * about what was just done. */
async function answer(page: Page): Promise<void> {
  await page.waitForResponse((response) => /\/(entries|second)\/$/.test(response.url()));
  await written(page);
}

/** Until nothing is on its way to the server. */
async function written(page: Page): Promise<void> {
  await expect(focus(page)).toHaveAttribute("aria-busy", "false");
}

/** Whether the step stays, to be done once more: a wrench's scatter, a reading that is not right. */
async function again(page: Page): Promise<boolean> {
  return (await focus(page).locator(".bench_remark").count()) > 0;
}

/** After a reading on the side stand nobody goes under the bike until it is strapped down again. */
async function strapped(page: Page, hand: Hand): Promise<void> {
  const strap = button(page, "It stands upright, strapped down");
  if (!(await strap.isVisible())) return;
  await hand.press(strap);
  await expect(strap).toHaveCount(0);
}

/** From where the visit stands to its last step, or `until` something; `at` is called before each. */
export async function walk(
  page: Page,
  hand: Hand,
  at: (title: string) => Promise<void> = () => Promise.resolve(),
  until: () => Promise<boolean> = () => Promise.resolve(false),
): Promise<void> {
  for (let steps = 0; steps < 150; steps += 1) {
    const title = (await page.getByRole("heading", { level: 1 }).textContent()) ?? "";
    if (title.startsWith("All done") || (await until())) return;
    await at(title);
    await strapped(page, hand);
    await usual(page, hand);
  }
  throw new Error("the visit never came to its end");
}
