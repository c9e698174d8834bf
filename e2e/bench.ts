import { expect, type Browser, type Locator, type Page } from "@playwright/test";
import { asked, said } from "./api";
import { nothingRests } from "./server";
import type { components } from "../web/src/api/schema";
import { dayWords } from "../web/src/ui/days";

type Bikes = components["schemas"]["BikeFormPage"];
type Ward = components["schemas"]["Ward"];

/** Comes to the ward signed in; how one signs in is shown by `atTheDoor`. */
export async function signIn(page: Page, name = "mira"): Promise<void> {
  await asked(page, "/api/session/");
  await said(page, "/api/session/", { username: name, password: `harbour-${name}` });
  await page.goto("/");
  await expect(page.getByRole("heading", { name: "Ward", exact: true })).toBeVisible();
}

/** Signs in at the door and comes to the ward. */
export async function atTheDoor(page: Page, name = "mira"): Promise<void> {
  await page.goto("/");
  await page.getByLabel("Name").fill(name);
  await page.getByLabel("Password").fill(`harbour-${name}`);
  await page.getByRole("button", { name: "Sign in" }).click();
  await expect(page.getByRole("heading", { name: "Ward", exact: true })).toBeVisible();
}

/** Signs out, and waits for it: whoever goes on at once takes the request back. */
export async function signOut(page: Page): Promise<void> {
  await press(page, "Sign out");
  await expect(page.getByRole("button", { name: "Sign in", exact: true })).toBeVisible();
}

/** Answers to this are worked out at once and held back; what is returned lets them go. */
export async function slowly(page: Page, what: string): Promise<() => Promise<void>> {
  let letGo = () => {};
  const free = new Promise<void>((resolve) => (letGo = resolve));
  await page.route(what, async (route) => {
    const response = await route.fetch();
    await free;
    await route.fulfill({ response });
  });
  return async () => {
    const answered = page.waitForResponse(what);
    letGo();
    await answered;
    await page.unroute(what);
  };
}

/** A tablet that is worked with fingers alone. */
export async function tablet(browser: Browser, baseURL: string | undefined): Promise<Page> {
  const viewport = { width: 1280, height: 800 };
  const page = await (await browser.newContext({ baseURL, hasTouch: true, viewport })).newPage();
  await nothingRests(page);
  return page;
}

/** Waits until this step is in focus. */
export async function step(page: Page, title: string): Promise<void> {
  await expect(page.getByRole("heading", { level: 1, name: title, exact: true })).toBeVisible();
}

export async function press(page: Page, name: string | RegExp): Promise<void> {
  await page.getByRole("button", { name, exact: typeof name === "string" }).click();
}

/** Chooses an option in a list that opens. */
export async function choose(
  within: Page | Locator,
  label: string | RegExp,
  option: string | RegExp,
): Promise<void> {
  const page = "page" in within ? within.page() : within;
  const list = within.getByRole("combobox", { name: label, exact: typeof label === "string" });
  await list.click();
  // a long list draws only what is in sight: it is searched
  if (typeof option === "string" && (await list.isEditable())) await list.fill(option);
  await openLists(page).getByTitle(option, { exact: true }).first().click();
  await listsClosed(page);
}

function openLists(page: Page): Locator {
  return page.locator(".ant-select-dropdown:not(.ant-select-dropdown-hidden)");
}

/** A list takes its time to close, and Tab does not leave one that is still open. */
export async function listsClosed(page: Page): Promise<void> {
  await expect(openLists(page)).toHaveCount(0);
}

/** What stands chosen in a list. */
export function chosen(page: Page, label: string): Locator {
  return page
    .locator(".ant-select")
    .filter({ has: page.getByRole("combobox", { name: label, exact: true }) });
}

/** Takes what was chosen in a list out again. */
export async function unchoose(page: Page, label: string): Promise<void> {
  await chosen(page, label).hover();
  await chosen(page, label).locator(".ant-select-clear").click();
}

/** Types a day into its field, like 2027-03-18. */
export async function day(page: Page, label: string, on: string): Promise<void> {
  const field = page.getByLabel(label);
  const taken = dayWords(on).replaceAll("\u00a0", " ");
  // on a busy machine the list is not open yet when Enter comes, and what was typed is dropped
  for (let tries = 0; tries < 3; tries += 1) {
    await field.fill(on);
    await field.press("Enter");
    if ((await field.inputValue()) === taken) return;
    await page.waitForTimeout(300);
    if ((await field.inputValue()) === taken) return;
  }
}

export async function tab(page: Page, name: string): Promise<void> {
  await page.getByRole("tab", { name, exact: true }).click();
}

/** Ticks what there is to tick and goes on; a single thing is one press. */
export async function tickAll(page: Page): Promise<void> {
  const focus = page.getByRole("region", { name: "Step in focus" });
  if ((await page.getByRole("checkbox").count()) === 0) {
    await focus.locator(".controls_big-action").click();
    return;
  }
  for (const box of await page.getByRole("checkbox").all()) {
    if ((await box.getAttribute("aria-checked")) !== "true") await box.click();
  }
}

export async function wait(page: Page): Promise<void> {
  const running = page.getByRole("timer", { name: /\d:\d/ });
  const start = page.getByRole("button", { name: "Start", exact: true });
  await expect(start.or(running)).toBeVisible();
  // an engine runs since its light was watched
  if (await start.isVisible()) await start.click();
  const done = page.getByRole("button", { name: "Done", exact: true });
  await expect(done).toBeEnabled({ timeout: 60_000 });
  await done.click();
}

/** Opens a step that is done already. */
export async function lookBack(page: Page, title: string | RegExp): Promise<void> {
  const steps = page.getByRole("navigation", { name: "Steps" });
  const done = steps.getByRole("button", { name: /^. Done \d/ });
  if ((await done.getAttribute("aria-expanded")) !== "true") await done.click();
  await steps.getByRole("button", { name: title }).first().click();
}

/** How a reservoir stands, unfolded. */
export async function stood(page: Page, reservoir: string): Promise<Locator> {
  const region = page.getByRole("region", { name: `How the ${reservoir} stands` });
  const fold = region.getByRole("button").first();
  if ((await fold.getAttribute("aria-expanded")) !== "true") await fold.click();
  return region;
}

/** Says how the level stood before the engine was started. */
export async function cameIn(page: Page): Promise<void> {
  await step(page, "The level as it came");
  await press(page, "Upper half");
}

/** Starts the engine on its new oil: the lamp goes out. */
export async function lampOut(page: Page): Promise<void> {
  await step(page, "Start it, watch the oil light");
  await press(page, "Out within five seconds");
}

/** Runs the engine, lets it settle, and stands before the gauge. */
export async function runAndSettle(page: Page): Promise<void> {
  await step(page, "Run the engine");
  await wait(page);
  await step(page, "Read the level");
  const seen = page.getByRole("button", { name: "Nothing to see" });
  await expect(seen).toBeEnabled({ timeout: 60_000 });
  // nobody has said yet where it stands
  await expect(page.getByRole("button", { name: "Read it" })).toBeDisabled();
}

/** Drags the oil in the drawn glass to a share of the way from low to high mark. */
export async function dragLevel(page: Page, share: number): Promise<void> {
  const glass = page.getByRole("slider", { name: "Oil level" });
  // what has just come under a finger takes no drag
  await expect(glass).not.toHaveAttribute("data-resting");
  const box = await glass.boundingBox();
  if (!box) throw new Error("no glass to drag in");
  const at = (position: number) => box.y + ((290 - position * 200) / 380) * box.height;
  const x = box.x + box.width / 2;
  await page.mouse.move(x, at(0.5));
  await page.mouse.down();
  await page.mouse.move(x, at((0.5 + share) / 2), { steps: 4 });
  await page.mouse.move(x, at(share), { steps: 4 });
  await page.mouse.up();
  await expect(glass).toHaveAttribute("aria-valuenow", String(Math.round(share * 100)));
}

export async function stands(page: Page, attitude: string): Promise<void> {
  await page.getByText(attitude, { exact: true }).click();
}

/** Reads the level where it stands, with the bike in that attitude. */
export async function levelRead(page: Page, share: number, attitude = "upright"): Promise<void> {
  await dragLevel(page, share);
  await stands(page, attitude);
  await press(page, "Read it");
}

/** Starts the run sheet from its dialog, and waits until its first step is in focus. */
export async function sheetBegun(page: Page, hit = (what: Locator) => what.click()): Promise<void> {
  const start = page.getByRole("button", { name: "Start the run sheet", exact: true });
  // where it has just moved under the finger a tap does nothing, and is tapped again
  await expect(async () => {
    if (await start.isVisible()) await hit(start);
    await expect(start).toHaveCount(0, { timeout: 5000 });
  }).toPass();
  await step(page, "Cold checks");
}

export async function startVisit(
  page: Page,
  bike: string,
  odometer: string,
  variant = "",
): Promise<void> {
  await page.getByRole("link", { name: bike }).click();
  await press(page, "Service the engine");
  await page.getByLabel("Odometer now").fill(odometer);
  if (variant) await choose(page, /^Which capacity/, variant);
  await sheetBegun(page);
}

/** Pulls the simulated wrench, and again where its scatter leaves the plug too loose. */
export async function pulled(page: Page, title = "Torque the plug"): Promise<void> {
  await step(page, title);
  const torque = page.getByRole("heading", { level: 1, name: title });
  for (let pull = 0; pull < 5 && (await torque.isVisible()); pull++) {
    const take = page.getByRole("button", { name: "Take from wrench (simulated)" });
    if (!(await take.isVisible()))
      await page.getByText("Digital wrench (simulated)", { exact: true }).click();
    await take.click();
    await expect(page.getByLabel("Reading")).not.toHaveValue("");
    await press(page, "Write it down");
    await torque.waitFor({ state: "detached", timeout: 5000 }).catch(() => undefined);
  }
}

/** A new seal on, the plug in by hand; its torque is next. */
export async function plugBack(page: Page): Promise<void> {
  await step(page, "Seal on the plug");
  await press(page, "New seal on");
  await step(page, "Refit the plug by hand");
  await tickAll(page);
  await step(page, "Torque the plug");
}

/** The boxer's final drive from cold checks to the signature: an exact quantity. */
export async function finalDrive(page: Page): Promise<void> {
  await step(page, "Cold checks");
  await tickAll(page);
  await step(page, "Warm it up");
  await press(page, "Skip this step");
  await page.getByLabel("Why is “Warm it up” skipped?").fill("Came in warm");
  await press(page, "Skip");
  await step(page, "Support the bike");
  await tickAll(page);
  await step(page, "Prove the filler opens");
  await press(page, "It opens");
  await step(page, "Drain the final drive");
  await press(page, "Plug is out");
  await press(page, "Dripping has stopped");
  await step(page, "Measure what came out");
  await page.getByLabel("Amount, as the jug shows it").fill("180 ml");
  await press(page, "Write it down");
  await step(page, "Read the plug");
  await press(page, "Clean");
  await plugBack(page);
  await page.getByLabel("Reading").fill("19 N·m");
  await press(page, "Write it down");
  await step(page, "Fill");
  await expect(page.locator(".asks_coach-words")).toContainText(
    "Pour 185 ml: 185 ml of a 500 ml bottle.",
  );
  await press(page, "It is in, filler closed");
  await dryTwice(page, true);
  await step(page, "Finish");
  await tickAll(page);
  await step(page, "All done. Sign it off.");
  await press(page, "Sign");
  await step(page, "Signed and closed");
}

/** Dry, and still dry when it has stood; `filler`: that one is torqued before. */
export async function dryTwice(page: Page, filler = false): Promise<void> {
  if (filler) await pulled(page, "Torque the filler");
  for (const look of ["Look for leaks", "Look for leaks again"]) {
    await step(page, look);
    await press(page, "Dry everywhere");
  }
}

/** A bike nobody has worked on: others may stand open in the shop by now. How one is entered is shown by
 * `bikes.spec`. */
export async function comesIn(page: Page, name: string, model: string): Promise<string> {
  const { form, models } = await asked<Bikes>(page, "/api/bikes/");
  const { bikes } = await asked<Ward>(page, `/api/ward/?search=${name}`);
  expect(
    bikes.map((one) => one.name),
    "each bike's name is one journey's",
  ).not.toContain(name);
  const of = models.find((one) => one.name === model);
  const id = crypto.randomUUID();
  await said(page, "/api/bikes/", { ...form, id, name, model: of?.id, odometer: "20 000" });
  await page.goto("/");
  return id;
}

/** Its visit for one reservoir: how one is begun on the screen is shown by `startVisit`. */
export async function inFor(page: Page, bike: string, reservoir: string): Promise<void> {
  const id = crypto.randomUUID();
  await said(page, "/api/visits/", { id, bike, odometer: "20 010", tasks: [{ reservoir }] });
  await page.goto(`/visits/${id}`);
}

/** Ticks every number nobody has checked, and approves the sheet by name. */
export async function nameUnchecked(page: Page): Promise<void> {
  const dialog = page.getByRole("dialog", { name: "Nobody has checked these" });
  await expect(dialog.getByRole("button", { name: /still to tick/ })).toBeDisabled();
  for (const box of await dialog.getByRole("checkbox").all()) await box.check();
  await dialog.getByRole("button", { name: /^Approve version/ }).click();
}
