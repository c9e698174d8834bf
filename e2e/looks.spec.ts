import { comesIn, press, sheetBegun, signIn, step, tickAll } from "./bench";
import { expect, test } from "./server";
import type { Page } from "@playwright/test";

const BIKE = "Whimbrel";

/** Its front brake, by its own address. */
async function brake(page: Page) {
  await page.goto("/");
  await page.getByRole("link", { name: BIKE, exact: true }).first().click();
  await expect(page.getByRole("heading", { level: 1, name: BIKE })).toBeVisible();
  await page.goto(`${new URL(page.url()).pathname}?reservoir=front%20brake`);
  const region = page.getByRole("region", { name: "front brake", exact: true });
  await expect(region).toBeVisible();
  return region;
}

test("a look at a brake renews nothing, and low fluid is held until a lead has spoken", async ({
  page,
}) => {
  await signIn(page, "oda");
  await comesIn(page, BIKE, "Halvane Meridan 1130, 2020");
  const before = await brake(page);
  const due = (await before.getByRole("paragraph").first().textContent()) ?? "";
  await press(page, "Look at the front brake");
  await page.getByLabel("Odometer now").fill("20 010");
  await sheetBegun(page);
  await tickAll(page);
  await step(page, "Support the bike");
  await tickAll(page);
  await step(page, "Look at the front brake");
  await press(page, "Low, left as found");
  // held until a lead has spoken
  await expect(page.getByText(/worn pads or a leak/).first()).toBeVisible();
  await press(page, "Look back at it");
  await step(page, "Look at the front brake");
  await page.getByPlaceholder("why, in your words").fill("Trailered to the brake specialist");
  await press(page, "Lift the hold");
  await step(page, "Finish");
  await tickAll(page);
  await step(page, "All done. Sign it off.");
  await press(page, "Sign");
  await step(page, "Signed and closed");
  const after = await brake(page);
  await expect(after.getByRole("paragraph").first()).toHaveText(due);
  await expect(after.getByText(/Trailered to the brake specialist/)).toBeVisible();
  await page.getByRole("link", { name: "Findings" }).first().click();
  await expect(page.getByText("low, left as found").first()).toBeVisible();
});
