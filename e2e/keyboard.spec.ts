import { atTheDoor, step } from "./bench";
import { expect, test } from "./server";
import type { Locator, Page } from "@playwright/test";

/** Walks with the Tab key until this is in focus. */
async function onto(page: Page, goal: Locator): Promise<void> {
  await expect(goal).toBeAttached();
  for (let presses = 0; presses < 60; presses += 1) {
    if (await goal.evaluate((node) => node === document.activeElement)) return;
    await page.keyboard.press("Tab");
  }
  throw new Error(`the Tab key never reached ${goal.toString()}`);
}

async function press(page: Page, name: string): Promise<void> {
  const button = page.getByRole("button", { name, exact: true });
  await expect(button).toBeEnabled({ timeout: 60_000 });
  await onto(page, button);
  await page.keyboard.press("Enter");
}

async function tick(page: Page): Promise<void> {
  if ((await page.getByRole("checkbox").count()) === 0) {
    const only = page
      .getByRole("region", { name: "Step in focus" })
      .locator(".controls_big-action");
    await onto(page, only);
    await page.keyboard.press("Enter");
    return;
  }
  for (const box of await page.getByRole("checkbox").all()) {
    await onto(page, box);
    await page.keyboard.press("Space");
  }
}

async function type(page: Page, label: string, words: string): Promise<void> {
  await onto(page, page.getByLabel(label, { exact: true }));
  await page.keyboard.press("Control+a");
  await page.keyboard.type(words);
  await page.keyboard.press("Enter");
}

test("an engine by keyboard alone, level included", async ({ page }) => {
  await atTheDoor(page);
  await onto(page, page.getByRole("link", { name: "Postie" }));
  await page.keyboard.press("Enter");
  await press(page, "Service the engine");
  await expect(page.getByLabel("Odometer now")).toBeFocused();
  await page.keyboard.type("990");
  await page.keyboard.press("Enter");
  await step(page, "Cold checks");
  await tick(page);
  await step(page, "The level as it came");
  await press(page, "Upper half");
  await step(page, "Warm it up");
  await press(page, "Start");
  await press(page, "Done early");
  await step(page, "Support the bike");
  await tick(page);
  await step(page, "Prove the filler opens");
  await press(page, "It opens");
  await step(page, "Drain the engine");
  await press(page, "Plug is out");
  await press(page, "Dripping has stopped");
  await step(page, "Measure what came out");
  await type(page, "Amount, as the jug shows it", "29 oz");
  // this one has no magnet
  await step(page, "Look at plug and oil");
  await press(page, "Nothing to see");
  await step(page, "Seal on the plug");
  await press(page, "New seal on");
  await step(page, "Refit the plug by hand");
  await tick(page);
  await step(page, "Torque the plug");
  await type(page, "Reading", "24 N·m");
  await step(page, "Fill");
  await press(page, "It is in, filler closed");
  await step(page, "Start it, watch the oil light");
  await press(page, "Out within five seconds");
  // it runs since its light was watched
  await step(page, "Run the engine");
  await press(page, "Done");
  await step(page, "Read the level");
  const glass = page.getByRole("slider", { name: "Oil level" });
  await onto(page, glass);
  for (let presses = 0; presses < 5; presses += 1) await page.keyboard.press("ArrowUp");
  await expect(glass).toHaveAttribute("aria-valuenow", "75");
  await onto(page, page.getByRole("radio", { name: "upright" }));
  await page.keyboard.press("Space");
  await press(page, "Read it");
  await step(page, "Look for leaks");
});
