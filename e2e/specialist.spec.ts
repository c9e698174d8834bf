import { asked, said } from "./api";
import { choose, comesIn, day, inFor, press, signIn, step, tickAll } from "./bench";
import { expect, test } from "./server";
import type { Locator, Page } from "@playwright/test";

const TANDEM = "Osprand Tandem 890, 2022";

/** Its shock, by its own address. */
async function shock(page: Page, bike: string): Promise<Locator> {
  await page.goto(`/bikes/${bike}?reservoir=shock`);
  const region = page.getByRole("region", { name: "shock", exact: true });
  await expect(region).toBeVisible();
  return region;
}

function inDays(days: number): string {
  return new Date(Date.now() + days * 86_400_000).toISOString().slice(0, 10);
}

test("a shock goes out under a tag, comes back with its paper, and is fitted by two", async ({
  page,
}) => {
  await signIn(page, "mira");
  const bike = await comesIn(page, "Plover", TANDEM);
  const region = await shock(page, bike);
  await press(page, "Hand the shock out");
  const out = page.getByRole("dialog");
  await press(page, "It leaves"); // nothing said: each is asked for, nothing is lost
  await expect(out.getByText("That has to be said.").first()).toBeVisible();
  await out.getByLabel("To whom").fill("the island's suspension shop");
  await out.getByLabel("What is wanted").fill("new seal, oil, charge");
  await day(page, "Back by", inDays(5));
  await choose(out, "How the bike waits", /on the lift/);
  await press(page, "It leaves");
  await expect(region.getByText("the island's suspension shop").first()).toBeVisible();
  const tag = await region.getByLabel(/^Tag /).textContent();
  expect(tag).toMatch(/^[2-9A-Z]{4}$/);
  // the ward says where it is
  await page.goto("/");
  await page.getByLabel("Find a bike").fill("Plover");
  const away = page.getByRole("link", { name: new RegExp(`tag ${tag}, back by`) });
  await away.click();

  await press(page, "Take it back");
  const back = page.getByRole("dialog");
  await choose(back, "What was done", "rebuilt: opened, new oil and seals");
  await press(page, "It is back");
  await expect(back.getByText("Which paper says what was done?")).toBeVisible();
  await back.getByLabel("Paper that says so").fill("bill 12");
  await back.getByLabel("Oil in it").fill("light shock oil");
  await back.getByLabel("Gas, as read").fill("145");
  await back.getByLabel("Read at").fill("20 °C");
  await press(page, "It is back");
  await press(page, "145 psi");
  await expect(region.getByText(/rebuilt: opened.*10\.00 bar at 20 °C; bill 12/)).toBeVisible();

  await press(page, "Fit it again");
  const fitted = page.getByRole("dialog");
  await fitted.getByLabel("Torqued, by the manual").fill("both bolts, 48 N·m");
  await fitted.getByLabel("Who looked").fill("mira");
  await fitted.getByLabel("PIN or password").fill("harbour-mira");
  await press(page, "I looked at it");
  await expect(fitted.getByText("Whoever pulled it cannot be the second person.")).toBeVisible();
  await fitted.getByLabel("Who looked").fill("oda");
  await fitted.getByLabel("PIN or password").fill("harbour-oda");
  await press(page, "I looked at it");
  await expect(region.getByText("Fitted: both bolts, 48 N·m; Mira, Oda looked")).toBeVisible();
  await expect(region.getByRole("button", { name: "Hand the shock out" })).toBeVisible();
  await expect(region.getByRole("cell", { name: /rebuilt: opened/ })).toBeVisible();
});

test("nothing is finished as if the shock were there, on a tablet held upright", async ({
  page,
}) => {
  await page.setViewportSize({ width: 800, height: 1280 });
  await signIn(page, "mira");
  const bike = await comesIn(page, "Sanderling", TANDEM);
  await shock(page, bike);
  await page.getByRole("button", { name: "Hand the shock out" }).press("Enter");
  const out = page.getByRole("dialog");
  await out.getByText("To one of us, qualified for it").click();
  await choose(out, "To whom", "Oda");
  await out.getByLabel("Qualified by").fill("the maker's course");
  await day(page, "Back by", inDays(2));
  await out.getByLabel("What is wanted").fill("oil and seal");
  await choose(out, "How the bike waits", /on a stand/);
  await out.getByLabel("What is wanted").press("Enter");
  await expect(page.getByText(/qualified by the maker's course/)).toBeVisible();

  const id = crypto.randomUUID();
  const tasks = [{ reservoir: "front brake" }];
  await said(page, "/api/visits/", { id, bike, odometer: "20 010", tasks });
  const sheet = await asked<{ steps: { id: string; unmet: { words: string }[] }[] }>(
    page,
    `/api/visits/${id}/`,
  );
  const finish = sheet.steps.find((one) => one.id === "finish");
  expect(finish).toBeDefined();
  await page.goto(`/visits/${id}`);
  await expect(page.getByText(/shock is away, at Oda/).first()).toBeVisible();
});

test("how far it sinks: preload first, and a slip is said at its field", async ({ page }) => {
  await signIn(page, "mira");
  await shock(page, await comesIn(page, "Twite", TANDEM));
  await press(page, "How far it sinks");
  const sag = page.getByRole("dialog");
  await sag.getByLabel("Wheel hanging").fill("62");
  await sag.getByLabel("Bike alone, let down from above").fill("608");
  await sag.getByLabel("Bike alone, let up from below").fill("604");
  await sag.getByLabel("Rider on, let down from above").fill("564");
  await sag.getByLabel("Rider on, let up from below").fill("560");
  await sag.getByLabel(/Rider.s weight/).fill("80");
  await press(page, "Work it out");
  await press(page, "620 mm"); // typed in centimetres
  await expect(sag.getByText(/Preload first: \d\.\d turns in/)).toBeVisible();
  await expect(sag.getByText("58.0 mm")).toBeVisible();
  await sag.getByLabel("Rider on, let up from below").fill("577");
  await sag.getByLabel("Rider on, let down from above").fill("582");
  await press(page, "Work it out");
  await expect(sag.getByText("Both are right: nothing to do.")).toBeVisible();
});

test("another air gap is drawn beside the sheet's", async ({ page }) => {
  await signIn(page, "mira");
  const bike = await comesIn(page, "Linnet", TANDEM);
  await page.goto(`/bikes/${bike}?reservoir=fork%20left`);
  await press(page, "Another air gap");
  const gaps = page.getByRole("dialog");
  await gaps.getByLabel("Air gap").fill("9");
  await press(page, "Beside the sheet’s");
  await press(page, "90 mm"); // typed in centimetres
  await expect(gaps.getByText(/90\.0 mm is firmer at the end.*earlier\./)).toBeVisible();
  await expect(gaps.getByRole("img", { name: "Force over travel" })).toBeVisible();
});

test("a shock is felt and timed before it is said how it is", async ({ page }) => {
  await signIn(page, "mira");
  await inFor(page, await comesIn(page, "Crossbill", TANDEM), "shock");
  await tickAll(page);
  await step(page, "Support the bike");
  await tickAll(page);
  await step(page, "Feel and time the shock");
  for (const [name, value] of [
    ["bush play", "1.5"],
    ["rebound, first", "0.6"],
    ["rebound, second", "0.7"],
    ["rebound, third", "0.65"],
    ["gas", "10.1 bar"],
    ["temperature", "293"],
  ]) {
    await page.getByLabel(`${name}, as read`).fill(value ?? "");
  }
  await press(page, "Write it down");
  await press(page, "293 K"); // no shock is as warm
  await step(page, "Look at the shock");
  await press(page, /dry and firm/i);
  await step(page, "Finish");
  const sheet = await asked<{ steps: { id: string; remark: string }[] }>(
    page,
    `/api${new URL(page.url()).pathname}/`,
  );
  const remark = (id: string) => sheet.steps.find((one) => one.id === id)?.remark;
  expect(remark("shock/shock felt")).toContain("The middle one: 0.65 s.");
  expect(remark("shock/look")).toMatch(/investigate.*bolts/i);
});
