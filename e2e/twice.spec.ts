import { comesIn, signIn, startVisit } from "./bench";
import { expect, test } from "./server";
import { touch, walk } from "./visit";
import type { Browser, Locator, Page } from "@playwright/test";

const V_TWIN = "Brackwell Colossine 1640, 2018";

/** A finger that taps everything twice, half a second apart; what is ticked, once. */
async function tapTwice(page: Page, target: Locator): Promise<void> {
  if ((await target.getAttribute("role")) === "checkbox") return target.tap();
  await target.scrollIntoViewIfNeeded();
  await target.click({ trial: true }); // until it takes a press, wherever it is scrolled to for it
  await expect(page.locator("[data-resting]")).toHaveCount(0);
  const box = await target.boundingBox();
  if (!box) throw new Error("nothing to tap");
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  await page.touchscreen.tap(x, y);
  await page.waitForTimeout(500);
  await page.touchscreen.tap(x, y);
  await page.waitForTimeout(150);
}

/** A page on which what a tap lets rest does rest. */
async function resting(browser: Browser, baseURL: string | undefined): Promise<Page> {
  const viewport = { width: 1280, height: 800 };
  return (await browser.newContext({ baseURL, hasTouch: true, viewport })).newPage();
}

test("a finger that taps twice does every step once", async ({ browser, baseURL }) => {
  const page = await resting(browser, baseURL);
  await signIn(page);
  await comesIn(page, "Siskin", V_TWIN);
  await startVisit(page, "Siskin", "20 010");

  const written = new Map<string, string>();
  page.on("request", (request) => {
    if (request.method() !== "POST" || !request.url().endsWith("/entries/")) return;
    const { id, step: at, kind } = request.postDataJSON() as Record<string, string>;
    written.set(id ?? "", `${at}: ${kind}`);
  });
  const hand = touch();
  hand.press = async (target) => {
    const before = written.size;
    await expect(target).toBeEnabled({ timeout: 60_000 });
    await tapTwice(page, target);
    expect([...written.values()].slice(before).length).toBeLessThanOrEqual(1);
    hand.actions += 1;
  };
  await walk(page, hand);
  // each step was done on purpose: nothing skipped, taken, or broken off early by the second tap
  const kinds = [...written.values()].map((one) => one.split(": ")[1]);
  expect(kinds.filter((kind) => ["skip", "takes", "stands"].includes(kind ?? ""))).toEqual([]);
  await page.context().close();
});

test("keys are never held up, and a held key does nothing more", async ({ browser, baseURL }) => {
  const page = await resting(browser, baseURL);
  await signIn(page);
  await comesIn(page, "Redwing", V_TWIN);
  await startVisit(page, "Redwing", "20 010");
  const boxes = page.getByRole("checkbox");
  await expect(page.locator("[data-resting]")).toHaveCount(0);
  await boxes.first().click();
  await boxes.first().press("Space");
  await expect(boxes.first()).toHaveAttribute("aria-checked", "false");
  // the finger stays on the key: down once, then repeats
  await boxes.first().focus();
  await page.keyboard.down("Space");
  await page.keyboard.down("Space");
  await page.keyboard.down("Space");
  await page.keyboard.up("Space");
  await expect(boxes.first()).toHaveAttribute("aria-checked", "true");
  await page.context().close();
});
