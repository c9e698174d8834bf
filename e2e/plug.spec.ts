import { choose, comesIn, lookBack, press, sheetBegun, signIn, step, tablet } from "./bench";
import { ahead, ALL_DONE } from "./ahead";
import { expect, test } from "./server";
import type { Browser, Page } from "@playwright/test";
import { CELLS, fresh, spread, stroke, touched, wipe } from "../web/src/findings/paint";

/** A brown picture: what a camera gives, for all the server knows. */
const PICTURE = Buffer.from(
  "iVBORw0KGgoAAAANSUhEUgAAAHgAAABaCAIAAAD8YgW4AAAAjklEQVR42u3QMQ0AMAgAsDE5SEES6lFBwtFKaHTlY99XIFo0okWLRrRoRIsWjWjRiBYtGtGiES1aNKJFI1q0aESLRrRo0YgWjWjRohEtGtGiRSNaNKJFi0a0aESLFo1o0YgWLRrRohEtWjSiRSNatGhEi0a0aNGIFo1o0aIRLRrRokUjWjSiRYtGtGhEXzEiuwGiCG0RRQAAAABJRU5ErkJggg==",
  "base64",
);

const focus = (page: Page) => page.getByRole("region", { name: "Step in focus" });
const foot = (page: Page) => focus(page).locator(".painter_so-far");

/** A bike on the lift, its engine drained and measured, in front of the plug. */
async function beforeThePlug(page: Page, name: string, who = "mira"): Promise<void> {
  await signIn(page, who);
  await comesIn(page, name, "Brackwell Colossine 1640, 2018");
  await page.getByRole("link", { name }).click();
  await press(page, "Service the engine");
  await page.getByLabel("Odometer now").fill("20 010");
  await sheetBegun(page);
  await ahead(page, "Measure what came out");
  await press(page, "scale");
  await press(page, "Take from scale (simulated)");
  await expect(page.getByLabel("Weight with its pan, as the scale shows it")).not.toHaveValue("");
  await press(page, "Write it down");
  await step(page, "Read the plug");
}

/** Draws with the mouse over the drawn magnet, from point to point in shares of its width. */
async function draw(page: Page, ...points: [number, number][]): Promise<void> {
  const box = await page.locator(".painter_painted-plug").boundingBox();
  if (!box) throw new Error("no plug to paint");
  for (const [index, [x, y]] of points.entries()) {
    await page.mouse.move(box.x + box.width * x, box.y + box.height * y, { steps: 4 });
    if (index === 0) await page.mouse.down();
  }
  await page.mouse.up();
}

const share = async (page: Page) => Number(await page.getByLabel("Share, %").inputValue());

test("paint covers, is covered, and is wiped off again", () => {
  const paste = fresh("paste", "steel");
  const fuzz = fresh("fuzz", "steel");
  const middle = touched({ x: 50, y: 50 }, { x: 50, y: 50 }, 10);
  let parts = stroke([], paste, middle);
  expect(parts[0]?.share).toBe(String(Math.floor((middle.length / CELLS.length) * 100)));
  // what is painted over belongs to the brush that came last
  parts = stroke(parts, fuzz, middle.slice(0, 5));
  expect(parts.map((part) => part.cells.length)).toEqual([middle.length - 5, 5]);
  expect(wipe(parts, middle).every((part) => part.cells.length === 0 && part.share === "")).toBe(
    true,
  );
  // a stroke far beyond the edge paints nothing
  expect(touched({ x: -90, y: 0 }, { x: -90, y: 10 }, 4)).toEqual([]);
  // typed: as many free cells, from the middle outwards; what is no number is kept as it was typed
  const typed = spread(parts, fuzz, "40");
  const all = typed.flatMap((part) => part.cells);
  expect(new Set(all).size).toBe(all.length);
  expect(typed[1]?.cells.length).toBe(Math.round(CELLS.length * 0.4));
  expect(spread(parts, fuzz, "much")[1]).toMatchObject({ share: "much", cells: parts[1]?.cells });
  expect(spread(parts, fuzz, "900")[1]?.cells.length).toBe(
    CELLS.length - (parts[0]?.cells.length ?? 0),
  );
});

/** A lead reads the plug anew on a tablet of their own, without having seen the first reading. */
async function readAgain(browser: Browser, visit: string): Promise<void> {
  const lead = await (await browser.newContext({ baseURL: new URL(visit).origin })).newPage();
  await signIn(lead, "oda");
  await lead.goto(visit);
  await lookBack(lead, /Read the plug/);
  await expect(focus(lead)).toContainText("Runa has read this plug.");
  await expect(lead.getByText("slivers of steel")).toHaveCount(0);
  await press(lead, "Read it myself");
  await draw(lead, [0.4, 0.5], [0.6, 0.5]);
  await expect(foot(lead)).toContainText("routine");
  await press(lead, "Write it down");
  // whoever has read it stays with it: the verdict, and beside it the last times
  await expect(focus(lead)).toContainText("paste of steel");
  await expect(focus(lead)).toContainText("Its first plug on record.");
  await lead.context().close();
}

test("an apprentice paints what the plug shows, with a picture; a lead reads it anew, and overrules", async ({
  page,
  browser,
}) => {
  await beforeThePlug(page, "Fulmar", "runa");
  const write = page.getByRole("button", { name: "Write it down" });
  await expect(write).toBeDisabled(); // clean is said by its own button
  const begun = Date.now();
  // a common finding: eight actions and twenty seconds at most, these are six
  await draw(page, [0.35, 0.4], [0.65, 0.4], [0.35, 0.5], [0.65, 0.5]);
  await expect(foot(page)).toContainText("routine: normal wear.");
  await press(page, "slivers");
  await draw(page, [0.6, 0.65], [0.7, 0.65]);
  await press(page, "2 mm");
  await press(page, "dark");
  await expect(foot(page)).toContainText("watch: a steel edge being cut.");
  await expect(foot(page)).toContainText("If a magnet ignores the slivers: note.");
  expect(Date.now() - begun).toBeLessThan(20_000);
  expect(await share(page)).toBeGreaterThan(0);

  await page.getByRole("tab", { name: "Pictures" }).click();
  const file = { name: "plug.png", mimeType: "image/png", buffer: PICTURE };
  await page.locator("input[type=file]").setInputFiles({ ...file, buffer: Buffer.from("<svg/>") });
  await expect(page.getByText("That is no picture")).toBeVisible();
  await page.locator("input[type=file]").setInputFiles(file);
  await page.getByRole("button", { name: "Mark the spot" }).click();
  await expect(page.locator(".painter_spot")).toBeVisible();
  await page.getByRole("tab", { name: /^Kept/ }).click();
  await page.getByLabel("Debris and sample are kept").fill("Bag 14, shelf by the door");
  // nothing of it is lost with a reload
  await page.reload();
  await expect(page.getByRole("button", { name: /^slivers, \d/ })).toBeVisible();
  await write.click();
  await step(page, "Seal on the plug");

  await readAgain(browser, page.url());
  await ahead(page, ALL_DONE);
  const lead = await (await browser.newContext({ baseURL: new URL(page.url()).origin })).newPage();
  await signIn(lead, "oda");
  await lead.goto(page.url());
  await press(lead, "Sign");
  await step(lead, "Signed and closed");
  await lead.getByRole("link", { name: "Fulmar" }).first().click();
  const engine = lead.getByRole("region", { name: "engine" });
  await expect(engine).toContainText("Runa read it first: watch. Oda's reading counts.");
  await press(lead, "I see it otherwise");
  const dialog = lead.getByRole("dialog");
  await dialog.getByText("watch", { exact: true }).click();
  await expect(dialog.getByRole("button", { name: "Write it down" })).toBeDisabled();
  await dialog.getByLabel("Why").fill("It whines; look sooner");
  await dialog.getByRole("button", { name: "Write it down" }).click();
  await expect(engine).toContainText("Taken for watch instead of routine: It whines; look sooner");
  await engine.getByRole("button", { name: "why?" }).first().click();
  await expect(lead.getByText("Half the interval: its last plug asked")).toBeVisible();
  await lead.context().close();
});

test("the same finding by keyboard alone", async ({ page }) => {
  await beforeThePlug(page, "Ptarmigan");
  const key = async (name: string) => {
    const button = focus(page).getByRole("button", { name, exact: true });
    await button.focus();
    await button.press("Enter");
  };
  await key("fuzz");
  const slider = page.getByRole("slider", { name: "Share of the face" });
  await slider.focus();
  await slider.press("ArrowRight");
  await slider.press("ArrowRight");
  await expect(page.getByLabel("Share, %")).toHaveValue("10");
  await expect(page.getByRole("img", { name: "The magnet, 10 % covered" })).toBeVisible();
  await key("2 mm");
  await key("dark");
  await expect(foot(page)).toContainText("note: more fine steel than usual.");
  await key("Write it down");
  await step(page, "Seal on the plug");
  await lookBack(page, /Read the plug/);
  await expect(focus(page)).toContainText("fuzz of steel, 10%, 2 mm high; oil dark");
  await expect(focus(page)).toContainText("Its first plug on record.");
});

test("the same by touch, with debris in a filter that was cut open", async ({
  browser,
  baseURL,
}) => {
  const page = await tablet(browser, baseURL);
  await beforeThePlug(page, "Guillemot");
  const tap = (name: string) => focus(page).getByRole("button", { name, exact: true }).tap();
  await tap("brass");
  const box = await page.locator(".painter_painted-plug").boundingBox();
  if (!box) throw new Error("no plug to paint");
  await page.touchscreen.tap(box.x + box.width / 2, box.y + box.height / 2);
  expect(await share(page)).toBeGreaterThan(0);
  await expect(foot(page)).toContainText("investigate: bush or thrust washer.");
  await tap("wipe off");
  await page.touchscreen.tap(box.x + box.width / 2, box.y + box.height / 2);
  await expect(page.getByText("paste of brass")).toHaveCount(0);
  await page.getByRole("tab", { name: "Elsewhere" }).tap();
  await choose(page, "Its form", "fragments");
  await tap("Add it");
  await expect(focus(page)).toContainText("filter: fragments of steel, about 3");
  await expect(foot(page)).toContainText("hold: gear tooth or broken part.");
  await tap("Write it down");
  await step(page, "Seal on the plug");
  const hold = page.getByRole("alert").filter({ hasText: "Hold" });
  await expect(hold).toBeVisible();
  const lead = await (await browser.newContext({ baseURL })).newPage();
  await signIn(lead, "oda");
  await lead.goto(page.url());
  await lead.getByLabel("Why, in a lead's words").fill("Old tooth; pump and gears looked at, fine");
  await press(lead, "Lift the hold");
  await expect(hold).toHaveCount(0);
  await lead.context().close();
  await page.context().close();
});

test("without a network a picture waits with its finding, and it is said at the door and in the house", async ({
  page,
}) => {
  await beforeThePlug(page, "Shelduck");
  const visit = page.url();
  // one network that refuses, one that swallows everything
  await page.route("**/plug-pictures/", (route) => route.abort());
  await page.route("**/entries/", () => {});
  await draw(page, [0.35, 0.4], [0.65, 0.4]);
  await page.getByRole("tab", { name: "Pictures" }).click();
  const file = { name: "plug.png", mimeType: "image/png", buffer: PICTURE };
  await page.locator("input[type=file]").setInputFiles(file);
  await expect(page.getByText("It waits on this device")).toBeVisible();
  await page.getByRole("button", { name: "Mark the spot" }).click();
  await press(page, "Write it down");
  await expect(page.getByText(/^Not sent yet: 1 entry/).first()).toBeVisible();
  await press(page, "Sign out");
  const left = page.getByText("Mira: 1 entry on this device, written down nowhere else.");
  await expect(left).toBeVisible();
  await signIn(page, "oda");
  await expect(left).toBeVisible();
  await page.goto(visit);
  await expect(left).toBeVisible();
  await press(page, "Sign out");
  await page.unroute("**/plug-pictures/");
  await page.unroute("**/entries/");
  const arrives = page.waitForResponse((one) => one.url().endsWith("/plug-pictures/"));
  await signIn(page);
  const { id } = (await (await arrives).json()) as { id: string };
  await expect(left).toHaveCount(0);
  await page.goto(visit);
  await step(page, "Seal on the plug");
  const shown = await page.request.get(`/api/plug-pictures/${id}/`);
  expect([shown.status(), shown.headers()["cache-control"]]).toEqual([200, "private, no-store"]);
});
