import { press, signIn } from "./bench";
import { test } from "./server";
import type { Page } from "@playwright/test";

async function picture(page: Page, name: string): Promise<void> {
  await page.mouse.move(5, 795);
  await page.waitForTimeout(700);
  await page.screenshot({ path: `/tmp/look/${name}.png` });
}

test("pictures", async ({ page }) => {
  await signIn(page, "oda");
  await picture(page, "ward");
  await page.getByRole("link", { name: "Spec sheets" }).click();
  await page.waitForTimeout(600);
  await picture(page, "sheets");
  await page
    .getByRole("link", { name: /version 1/ })
    .first()
    .click();
  await page.waitForTimeout(600);
  await picture(page, "sheet-approved");
  await press(page, "Change it in a draft");
  await page.waitForTimeout(900);
  await page.getByLabel("Capacity, with filter").fill("36.5 qt");
  await page.waitForTimeout(500);
  await picture(page, "sheet-draft");
  await press(page, "Bike map");
  await picture(page, "sheet-map");
  await page.getByRole("link", { name: "Ward" }).first().click();
  await page.getByRole("link", { name: "Ferry Bell" }).click();
  await page.waitForTimeout(500);
  await picture(page, "bike-engine");
  await press(page, "The bike");
  await picture(page, "bike-card");
  await press(page, "gearbox");
  await picture(page, "bike-gearbox");
  await press(page, "which oil fits?");
  await page.waitForTimeout(500);
  await picture(page, "matches");
  await page.keyboard.press("Escape");
  await page.getByRole("link", { name: "Workshop" }).click();
  await page.waitForTimeout(500);
  await picture(page, "workshop");
  await page.getByRole("link", { name: "Shelf" }).click();
  await page.waitForTimeout(500);
  await page.getByLabel("Wanted at 40 °C").fill("26 cSt");
  await page.waitForTimeout(500);
  await picture(page, "shelf");
  await press(page, "Cogwork 90");
  await picture(page, "fluid");
  await page.keyboard.press("Escape");
  await page.goto("/bikes/new");
  await page.waitForTimeout(500);
  await picture(page, "bike-form");
  await page.goto("/");
  await page.getByRole("link", { name: "Ferry Bell" }).click();
  await press(page, "Service the engine");
  await page.getByLabel("Odometer now").fill("36 400");
  await press(page, "Start the run sheet");
  await page.waitForTimeout(500);
  await picture(page, "odometer-asked");
});
