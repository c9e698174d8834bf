import { ahead } from "./ahead";
import { said } from "./api";
import { comesIn, inFor, press, signIn, step, tablet, tickAll } from "./bench";
import type { Page } from "@playwright/test";
import { expect, test } from "./server";
import { touch, walk } from "./visit";

/** A visit for both legs of a fork. */
async function bothLegs(page: Page, bike: string): Promise<void> {
  const id = crypto.randomUUID();
  const tasks = [{ reservoir: "fork left" }, { reservoir: "fork right" }];
  await said(page, "/api/visits/", { id, bike, odometer: "20 010", tasks });
  await page.goto(`/visits/${id}`);
}

const remark = (page: Page) => page.locator(".bench_remark");
const found = (page: Page, name: string) => page.getByLabel(`${name}, as found`);
const read = (page: Page, name: string) => page.getByLabel(`${name}, as read`);
const left = (page: Page, name: string) => page.getByLabel(`${name}, as left`);

test("a leg in parts: clicks, a spring that is done, a bent tube, and oil that does not go with its gap", async ({
  page,
}) => {
  await signIn(page);
  await inFor(page, await comesIn(page, "Dunlin", "Osprand Tandem 890, 2022"), "fork left");
  await ahead(page, "Fork, left: read its adjusters, mark its height");
  await read(page, "compression").fill("12.3 clicks");
  await press(page, "Write it down");
  await expect(page.getByText(/whole or half/)).toBeVisible();
  await read(page, "compression").fill("8 clicks");
  await read(page, "rebound").fill("7 1/2 clicks");
  await read(page, "preload").fill("4 lines");
  await read(page, "tube over bridge").fill("7 mm");
  await press(page, "Write it down");
  await step(page, "Fork, left: take it out");
  await tickAll(page);
  await step(page, "Fork, left: open it, pour out, hang it to drip");
  await press(page, "Start");
  await press(page, /^Done/);
  await step(page, "Fork, left: measure what came out");
  await page.getByLabel("Amount, as the jug shows it").fill("490 ml");
  await press(page, "Write it down");
  await step(page, "Fork, left: look at its oil");
  await page.getByRole("tab", { name: "Bits in it" }).click();
  await press(page, "Add it");
  await press(page, "Write it down");

  await step(page, "Fork, left: measure its spring");
  await found(page, "free length").fill("284 mm");
  await press(page, "Write it down");
  await expect(remark(page)).toContainText("Under its limit, 285.0 mm: both springs are renewed.");
  await left(page, "free length").fill("291 mm");
  await press(page, "Write it down");
  await step(page, "Fork, left: look along the tube");
  await press(page, "Bent on the V-blocks");
  await expect(remark(page)).toContainText("renew it");
  await press(page, "A new one fitted");
  await step(page, "Fork, left: seals and bushes");
  await press(page, "Oil seal, dust seal and clip new");

  await step(page, "Fork, left: fill a little over, stroke the air out");
  await expect(page.getByText(/Pour 52\d ml/)).toBeVisible();
  await page.getByLabel("Amount, as the jug shows it").fill("470 ml");
  await press(page, "Write it down");
  await step(page, "Fork, left: draw down to the air gap, close it");
  await found(page, "air gap").fill("98 mm");
  await left(page, "air gap").fill("108 mm");
  await press(page, "Write it down");
  await step(page, "Fork, left: what stayed in it?");
  await press(page, "Air was in it: stroked out, gap read again");
  await step(page, "Fork, left: draw down to the air gap, close it");
  await found(page, "air gap").fill("108 mm");
  await press(page, "Write it down");
  await step(page, "Fork, left: what stayed in it?");
  await press(page, "Old oil had stayed in");
  await step(page, "Fork, left: put it back");
  const legs = page.getByRole("table", { name: "The legs beside each other" });
  await expect(legs).toContainText("291.0 mm, at least 285.0 mm");
  await expect(legs).toContainText("470 ml poured, 459 ml in it");
  await expect(legs).toContainText("108.0 mm");
});

test("a leg on air and one that only damps, by touch, held upright, to the signature", async ({
  browser,
  baseURL,
}) => {
  const page = await tablet(browser, baseURL);
  await signIn(page);
  await bothLegs(page, await comesIn(page, "Pochard", "Tarrow Scree 300, 2023"));
  const seen: string[] = [];
  await walk(page, touch(), (title) => {
    seen.push(title);
    return Promise.resolve();
  });
  const at = (words: string) => seen.findIndex((title) => title.startsWith(words));
  expect(at("Fork, left: write its air down")).toBeLessThan(at("Fork, left: take it out"));
  expect(at("Fork, left: pump it")).toBeGreaterThan(at("Torque the cap, fork, left"));
  expect(at("Fork, left: draw down")).toBe(-1);
  expect(at("Fork, right: draw down")).toBeGreaterThan(0);
  expect(at("Fork, left: measure its spring")).toBe(-1);
  await press(page, "Sign");
  await step(page, "Signed and closed");
  await page.context().close();
});
