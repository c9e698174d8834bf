import {
  atTheDoor,
  cameIn,
  dryTwice,
  lampOut,
  levelRead,
  press,
  runAndSettle,
  signIn,
  startVisit,
  step,
  stood,
  tickAll,
} from "./bench";
import { expect, test } from "./server";

test("one engine, from due to signed, with the server killed on the way", async ({
  page,
  server,
}) => {
  await atTheDoor(page);

  // 1 the ward: the due engine is visible without reading
  const row = page.getByRole("row").filter({ hasText: "Grey Heron" });
  await expect(row.locator(".ward_cell-due")).toHaveCount(1);
  await expect(row.getByRole("img", { name: /^engine: .* over$/ })).toBeVisible();

  // 2 the bike: manual's words, converted, with their source
  await row.getByRole("link", { name: "Grey Heron" }).click();
  await expect(page.getByRole("button", { name: /^With filter 3.65 qt/ })).toBeVisible();
  await expect(page.getByText("3454 ml", { exact: true })).toBeVisible();
  await page.getByRole("button", { name: /^With filter 3.65 qt/ }).click();
  await expect(page.getByText("Colossine workshop manual, p. 20")).toBeVisible();
  await page.keyboard.press("Escape");
  await expect(page.getByRole("button", { name: /18-25 ft-lb/ })).toBeVisible();
  await expect(page.getByText("24.4–33.9 N·m").first()).toBeVisible();
  await page.getByRole("link", { name: "Ward" }).first().click();

  // 3 the visit
  await startVisit(page, "Grey Heron", "61 300");
  await tickAll(page);
  await cameIn(page);

  // a timer runs; the server dies, a tick is typed, the page is reloaded
  await step(page, "Warm it up");
  await press(page, "Start");
  const ring = page.getByRole("timer");
  await expect(ring).not.toHaveAttribute("aria-label", "10 min");
  await server.kill();
  await page.waitForTimeout(2500);
  await press(page, /^Done/);
  await expect(page.getByText("Not sent yet: 1 entry")).toBeVisible();
  await server.start();
  await step(page, "Support the bike");
  await page.getByRole("checkbox").first().click();
  await page.reload();
  await step(page, "Support the bike");
  await expect(page.getByRole("checkbox").first()).toHaveAttribute("aria-checked", "true");
  await tickAll(page);

  await step(page, "Prove the filler opens");
  await press(page, "It opens");
  await step(page, "Drain the engine");
  await expect(page.getByText("behind the front cross-member")).toBeVisible();
  await press(page, "Plug is out");
  await expect(page.getByRole("button", { name: "Dripping has stopped" })).toBeVisible();

  // killed and reloaded in the middle of dripping: the timer goes on
  const before = await page.getByRole("timer").getAttribute("aria-label");
  await server.kill();
  await server.start();
  await page.reload();
  await expect(page.getByRole("timer")).toBeVisible();
  const after = await page.getByRole("timer").getAttribute("aria-label");
  expect(after).not.toBe("10 min");
  expect(after).not.toBe(before);
  await expect(await stood(page, "engine")).toContainText("draining");
  await press(page, "Dripping has stopped");

  await step(page, "Measure what came out");
  await page.getByLabel("Amount, as the jug shows it").fill("3 qt 13 oz");
  await expect(page.getByText("= 3224 ml")).toBeVisible();
  await press(page, "Write it down");
  await step(page, "Read the plug");
  await press(page, "fuzz");
  await page.getByLabel("Share, %").fill("30");
  await press(page, "dark");
  await press(page, "Write it down");
  await step(page, "Seal on the plug");
  await press(page, "New seal on");
  await step(page, "Refit the plug by hand");
  await tickAll(page);

  await step(page, "Torque the plug");
  await expect(page.locator(".asks_setting")).toContainText("29 N·m");
  await page.getByLabel("Reading").fill("21 N·m");
  await press(page, "Write it down");
  await expect(page.getByText("Too loose. Pull again")).toBeVisible();
  await press(page, "Take from wrench (simulated)");
  await expect(page.getByLabel("Reading")).not.toHaveValue("21 N·m");
  await press(page, "Write it down");

  await step(page, "Change the filter");
  await press(page, /^It is on/);

  // fill by stages: the coach says how much, in ml and in bottles, and why
  await step(page, "Fill");
  await expect(page.locator(".asks_coach-words")).toHaveText(
    "Pour 3240 ml: 3 whole 946 ml bottles and 401 ml.",
  );
  await press(page, "why?");
  await expect(page.getByText("the median counts")).toBeVisible();
  await page.keyboard.press("Escape");
  await press(page, "It is in, filler closed");

  // the level is dragged in the glass; on the side stand it is kept and not used
  await lampOut(page);
  await runAndSettle(page);
  await levelRead(page, 0.45, "side stand");
  await expect(page.getByText("Stand it right and read again")).toBeVisible();
  await levelRead(page, 0.45);

  await step(page, "Top up");
  await expect(page.locator(".asks_coach-words")).toContainText(
    /^Pour [0-9]+0 ml: [0-9]+0 ml of a 946 ml bottle/,
  );
  await press(page, "It is in, filler closed");
  await runAndSettle(page);
  await levelRead(page, 0.75);
  await dryTwice(page);
  await step(page, "Finish");
  await tickAll(page);

  // 4 sign
  await step(page, "All done. Sign it off.");
  await press(page, "Sign");
  await step(page, "Signed and closed");
  await page.getByRole("link", { name: "See the bike" }).click();
  const services = page.locator(".lists_services tbody tr");
  await expect(services.first()).toContainText("3224 ml");
  await expect(services.first()).toContainText(/3[45]\d\d ml/);
  await expect(page.getByText("Fuzz on the magnet")).toBeVisible();
  await page.getByRole("link", { name: "Ward" }).first().click();
  const after_sign = page.getByRole("row").filter({ hasText: "Grey Heron" });
  await expect(after_sign.locator(".ward_cell-due")).toHaveCount(0);
  await expect(after_sign.getByRole("img", { name: /^engine: in 45\d\d mi or by/ })).toBeVisible();
});

test("sending the same entry twice does nothing twice", async ({ page }) => {
  await signIn(page);
  await startVisit(page, "Lamplighter", "27 700");
  const sent: string[] = [];
  await page.route("**/entries/", async (route) => {
    const body = route.request().postData() ?? "";
    sent.push(body);
    if (sent.length === 1) {
      // the server takes it, but its answer is lost on the way
      await route.fetch();
      await route.abort();
    } else {
      await route.continue();
    }
  });
  await tickAll(page);
  await step(page, "Warm it up");
  // told of it by the server, the screen goes on; the entry is sent again all the same
  await expect.poll(() => sent.length).toBeGreaterThanOrEqual(2);
  await page.unroute("**/entries/");
  expect(new Set(sent.map((body) => (JSON.parse(body) as { id: string }).id)).size).toBe(1);
  await press(page, "Leave this visit");
  await page.getByLabel("Nothing has been drained").fill("Owner wants it back today");
  await press(page, "Leave it");
  await step(page, "Left without service");
});

test("an entry made after the session ended is sent once somebody signs in", async ({ page }) => {
  await signIn(page);
  await startVisit(page, "Lamplighter", "27 750");
  const boxes = await page.getByRole("checkbox").all();
  for (const box of boxes.slice(0, -1)) await box.click();
  await page.context().clearCookies({ name: "sessionid" });
  await boxes.at(-1)?.click();
  await page.getByLabel("Name").fill("mira");
  await page.getByLabel("Password").fill("harbour-mira");
  await press(page, "Sign in");
  await step(page, "Warm it up");
  await press(page, "Leave this visit");
  await page.getByLabel("Nothing has been drained").fill("Wrong bike");
  await press(page, "Leave it");
  await step(page, "Left without service");
});

test("two tablets on one visit see each other's entries", async ({ page, browser }) => {
  await signIn(page);
  await startVisit(page, "Ferry Bell", "58 500");
  const other = await (await browser.newContext()).newPage();
  await signIn(other, "oda");
  await other.goto(page.url());
  await step(other, "Cold checks");
  await tickAll(page);
  await cameIn(page);
  await step(other, "Warm it up");
  await press(other, "Start");
  await expect(page.getByRole("button", { name: "Done early" })).toBeVisible();
  await other.close();
});
