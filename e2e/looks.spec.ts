import { press, signIn, step, tickAll } from "./bench";
import { expect, test } from "./server";
import type { Page } from "@playwright/test";

/** A bike's reservoir, by its own address. */
async function open(page: Page, bike: string, reservoir: string): Promise<void> {
  await page.getByLabel("Find a bike").fill(bike);
  await page.getByRole("link", { name: bike, exact: true }).first().click();
  await expect(page.getByRole("heading", { level: 1, name: bike })).toBeVisible();
  await page.goto(`${new URL(page.url()).pathname}?reservoir=${encodeURIComponent(reservoir)}`);
  await expect(page.getByRole("region", { name: reservoir, exact: true })).toBeVisible();
}

test("a look at a brake renews nothing, and low fluid is followed up", async ({ page }) => {
  await signIn(page, "oda");
  await open(page, "Mail Boat", "front brake");
  const brake = page.getByRole("region", { name: "front brake", exact: true });
  const due = await brake.locator("[class*=when]").first().textContent();
  await press(page, "Look at the front brake");
  await page.getByLabel("Odometer now").fill("99 000");
  await press(page, "Start the run sheet");
  const stands = page.getByRole("button", { name: /is right$/ });
  await expect(stands.or(page.getByRole("heading", { level: 1, name: "Cold checks" }))).toBeVisible();
  if (await stands.isVisible()) await stands.click();
  await step(page, "Cold checks");
  await tickAll(page);
  await step(page, "Support the bike");
  await tickAll(page);
  await step(page, "Look at the front brake");
  await page.getByText("low, left as found", { exact: true }).click();
  // held until a lead has spoken
  await expect(page.getByText(/worn pads or a leak/).first()).toBeVisible();
  //SHOT hold
  await page.getByRole("button", { name: "Correct" }).first().click();
  await page.getByText("low, topped up between the marks", { exact: true }).click();
  await expect(page.getByText(/Look at the pads and for leaks/).first()).toBeVisible();
  //SHOT topped
  await step(page, "Finish");
  await tickAll(page);
  await press(page, /^Sign/);
  await expect(page.getByText(/signed/i).first()).toBeVisible();
  await page.goBack();
  await signIn(page, "oda");
  await open(page, "Mail Boat", "front brake");
  expect(await brake.locator("[class*=when]").first().textContent()).toBe(due);
  await expect(brake.getByText("Look at the pads and for leaks next.")).toBeVisible();
  //SHOT page
  await page.getByRole("link", { name: "Findings" }).first().click();
  await expect(page.getByText("low, topped up between the marks").first()).toBeVisible();
  //SHOT ledger
});
