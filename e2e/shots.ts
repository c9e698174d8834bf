import {
  lampOut,
  lookBack,
  day,
  dragLevel,
  press,
  runAndSettle,
  signIn,
  signOut,
  stands,
  startVisit,
  step,
  tab,
} from "./bench";
import { ahead } from "./ahead";
import { expect, test } from "./server";
import { mouse, walk } from "./visit";
import type { Page } from "@playwright/test";

/** Not a test: takes the pictures in docs/screenshots, with the demo's data. */
async function picture(page: Page, name: string): Promise<void> {
  await page.mouse.move(5, 795);
  await page.waitForTimeout(400);
  await page.screenshot({ path: `../docs/screenshots/${name}.png` });
}

/** A brush, and the share of the magnet it covers. */
async function painted(page: Page, form: string, share: string): Promise<void> {
  await press(page, form);
  await page.getByLabel("Share, %").fill(share);
}

async function toPlan(page: Page, bike: string): Promise<void> {
  await page.getByRole("link", { name: "Ward", exact: true }).click();
  const row = page.getByRole("row").filter({ hasText: bike });
  await row.getByRole("link", { name: "Plan a visit" }).click();
  await expect(page.getByRole("heading", { name: "In what order" })).toBeVisible();
}

async function plan(page: Page, bike: string, on: string): Promise<void> {
  await toPlan(page, bike);
  await day(page, "Plan it for", on);
  await press(page, "Into the calendar");
  await expect(page.getByRole("heading", { name: "Calendar" })).toBeVisible();
}

test("pictures", async ({ page }) => {
  await page.goto("/");
  await expect(page.getByLabel("Name")).toBeVisible();
  await signIn(page);
  await expect(page.getByRole("link", { name: "Goat" })).toBeVisible();
  await picture(page, "ward");
  await page.setViewportSize({ width: 390, height: 844 });
  await expect(page.getByRole("list", { name: "What needs doing" })).toBeVisible();
  await picture(page, "ward-phone");
  await page.setViewportSize({ width: 1280, height: 800 });
  await page.getByRole("link", { name: "Shelf" }).click();
  await press(page, "Draw Slipway 23");
  await page.evaluate(() => scrollTo(0, 0));
  await picture(page, "shelf");
  await page.getByRole("link", { name: "Workshop" }).click();
  await expect(page.getByLabel("Crush washer, engine", { exact: true })).toBeVisible();
  await picture(page, "workshop");
  await page.getByRole("link", { name: "Spec sheets" }).click();
  await page
    .getByRole("link", { name: /approved by/ })
    .nth(1)
    .click();
  await press(page, "Change it in a draft");
  await page.getByLabel("Capacity, with filter").fill("3.85 l");
  await page.getByLabel("Capacity, with filter").press("Enter");
  await page.getByLabel("Capacity, drain only").fill("3.65 qt (3.65 l)");
  await page.getByLabel("Capacity, drain only").press("Enter");
  await expect(page.getByRole("alert")).toContainText("not the same amount");
  await picture(page, "sheet");
  await page.getByLabel("Capacity, drain only").fill("3.45 l");
  await page.getByRole("link", { name: "Ward", exact: true }).click();
  await page.getByRole("link", { name: "Findings", exact: true }).first().click();
  await expect(page.getByRole("list", { name: "What findings ask for" })).toBeVisible();
  await picture(page, "findings");
  await page
    .getByRole("link", { name: /Ferry Bell, gearbox/ })
    .first()
    .click();
  await expect(page.getByRole("region", { name: "Wear, steel" })).toBeVisible();
  await picture(page, "wear");
  await page.getByRole("link", { name: "Ferry Bell" }).click();
  await tab(page, "The bike");
  await picture(page, "bike-map");
  await tab(page, "gearbox");
  await press(page, "which oil fits?");
  await expect(page.getByText("Crownwheel 90").first()).toBeVisible();
  await picture(page, "matches");
  await page.keyboard.press("Escape");
  await page.getByRole("link", { name: "Ward", exact: true }).click();
  await plan(page, "Ferry Bell", "2027-03-18");
  await plan(page, "Red Buoy", "2027-03-23");
  await toPlan(page, "Grey Heron");
  for (const name of ["primary", "gearbox", "fork, left", "fork, right"]) {
    const box = page.getByRole("checkbox", { name, exact: true });
    await expect(box).toBeVisible();
    if ((await box.getAttribute("aria-checked")) !== "true") await box.click();
    await expect(box).toHaveAttribute("aria-checked", "true");
  }
  await page.getByRole("checkbox", { name: /^Valve clearances/ }).click();
  await expect(page.getByRole("list", { name: "Run sheet" })).toContainText("Valve clearances");
  await page.evaluate(() => window.scrollTo(0, 0));
  await picture(page, "plan");
  await page.getByRole("group", { name: "Who" }).getByRole("button", { name: "Mira" }).click();
  await day(page, "Plan it for", "2027-03-15");
  await press(page, "Into the calendar");
  await expect(page.getByRole("region", { name: "To buy" })).toBeVisible();
  await picture(page, "calendar");
  for (let left = 3; left > 0; left--) {
    await expect(page.getByRole("button", { name: "Drop it" })).toHaveCount(left);
    await page.getByRole("button", { name: "Drop it" }).first().click();
    await press(page, "Yes, drop it");
  }
  await page.getByRole("link", { name: "Ward", exact: true }).click();
  await page.getByRole("link", { name: "Grey Heron" }).click();
  await expect(page.getByRole("heading", { name: "Grey Heron" })).toBeVisible();
  await picture(page, "bike");
  await page.setViewportSize({ width: 800, height: 1280 });
  await picture(page, "bike-upright");
  await page.setViewportSize({ width: 1280, height: 800 });
  await page.getByRole("link", { name: "Ward" }).first().click();
  await startVisit(page, "Goat", "2 240", "with filter");
  await ahead(page, "Torque the plug");
  await picture(page, "bench-torque");
  await ahead(page, "Fill");
  await picture(page, "bench-fill");
  await page.getByLabel("Measured amount").fill("1,2");
  await press(page, "It is in, filler closed");
  await expect(page.getByRole("alert")).toContainText("Is it 1.2 l?");
  await page.getByLabel("Measured amount").fill("1.18 l");
  await lookBack(page, /Read the plug/);
  await press(page, "Correct it");
  await painted(page, "paste", "22");
  await painted(page, "fuzz", "9");
  await painted(page, "slivers", "3");
  await press(page, "2 mm");
  await press(page, "dark");
  await expect(page.locator(".painter_so-far")).toContainText("watch");
  await picture(page, "bench-finding");
  await press(page, "Back to what is next");
  // the button is scrolled to: not right after a tap
  await page.waitForTimeout(800);
  await press(page, "It is in, filler closed");
  await lampOut(page);
  await runAndSettle(page);
  await dragLevel(page, 0.3);
  await stands(page, "upright");
  await picture(page, "bench-level");
  // three reservoirs at once: two drip while the work goes on
  await page.getByRole("link", { name: "Ward" }).first().click();
  await page.getByRole("link", { name: "Grey Heron" }).first().click();
  await press(page, "Service the engine");
  await press(page, "Something else in the same visit?");
  for (const name of ["primary", "gearbox"]) {
    await page.getByRole("dialog").getByRole("checkbox", { name }).click();
  }
  await page.getByLabel("Odometer now").fill("61 300");
  await press(page, "Start the run sheet");
  await step(page, "Cold checks");
  const hand = mouse();
  await walk(
    page,
    hand,
    () => Promise.resolve(),
    async () =>
      (await page.getByRole("list", { name: "Running" }).getByRole("listitem").count()) > 1,
  );
  await picture(page, "bench");
  await page.goto("/own");
  await page
    .getByRole("region", { name: "PIN" })
    .getByLabel("Your password now")
    .fill("harbour-mira");
  await page.getByLabel("Four to eight figures").fill("2580");
  await press(page, "Set it");
  await expect(page.getByText("You have one.")).toBeVisible();
  await signOut(page);
  await signIn(page, "oda");
  await page.goto("/workshop/people");
  await expect(page.getByRole("row").filter({ hasText: "Mira" })).toContainText("PIN");
  await picture(page, "people");
});
