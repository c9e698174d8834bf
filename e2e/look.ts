import { press, signIn, startVisit, step, tickAll } from "./bench";
import type { Page } from "@playwright/test";
import { expect, test } from "./server";

test("look", async ({ page }) => {
  await signIn(page);
  const toPlan = async (bike: string) => {
    await page.getByRole("link", { name: "Ward", exact: true }).click();
    await page
      .getByRole("row")
      .filter({ hasText: bike })
      .getByRole("link", { name: "Plan a visit" })
      .click();
    await expect(page.getByRole("heading", { name: "In what order" })).toBeVisible();
  };
  const shot = async (n: string) => {
    await page.waitForTimeout(500);
    await page.screenshot({ path: `/tmp/look/${n}.png` });
  };
  const day = (n: number) => new Date(Date.now() + n * 86_400_000).toISOString().slice(0, 10);
  await toPlan("Grey Heron");
  await page.getByRole("checkbox", { name: "fork, left" }).click();
  await page.waitForTimeout(1500);
  await shot("plan");
  await page.screenshot({ path: `/tmp/look/plan-full.png`, fullPage: true });
  await page.getByLabel("Plan it for").fill(day(3));
  await press(page, "Into the calendar");
  await expect(page.getByRole("heading", { name: "Calendar" })).toBeVisible();
  await toPlan("Ferry Bell");
  await page.getByLabel("Plan it for").fill(day(10));
  await press(page, "Into the calendar");
  await expect(page.getByRole("heading", { name: "Calendar" })).toBeVisible();
  await toPlan("Lamplighter");
  await page.getByLabel("Plan it for").fill(day(11));
  await press(page, "Into the calendar");
  await expect(page.getByRole("heading", { name: "Calendar" })).toBeVisible();
  await shot("calendar");
  await page.getByRole("link", { name: "Open", exact: true }).first().click();
  await expect(page.getByRole("button", { name: "Keep the change" })).toBeVisible();
  await shot("planned");
  await page.getByRole("button", { name: "Start the engine" }).click();
  await page.waitForTimeout(800);
  await shot("start");
  await page.keyboard.press("Escape");
  await toPlan("Grey Heron");
  await page.waitForTimeout(1000);
  await shot("plan-again");
  await page.getByRole("link", { name: "Calendar" }).click();
  for (let n = 3; n > 0; n--) {
    await page.getByRole("button", { name: "Drop it" }).first().click();
    await page.waitForTimeout(800);
  }
  await page.getByRole("link", { name: "Ward", exact: true }).click();
  await startVisit(page, "Lamplighter", "27 700");
  await untilTorque(page);
  await shot("crow-foot");
  await page.getByRole("link", { name: "Shelf" }).click();
  await page.waitForTimeout(500);
  await page.screenshot({ path: `/tmp/look/shelf-full.png`, fullPage: true });
  await page.getByRole("link", { name: "Ward", exact: true }).click();
  await page.getByRole("link", { name: "Grey Heron" }).click();
  await page.getByRole("button", { name: /why/i }).first().click();
  await shot("bike-why");
});
async function untilTorque(page: Page) {
  await tickAll(page);
  await step(page, "Warm it up");
  await press(page, "Start");
  await press(page, "Done early");
  await step(page, "Support the bike");
  await tickAll(page);
  await step(page, "Prove the filler opens");
  await press(page, "It opens");
  await press(page, "Plug is out");
  await press(page, "Dripping has stopped");
  await page.getByLabel("Amount, as the jug shows it").fill("0.85 l");
  await press(page, "Write it down");
  await press(page, "Usual paste");
  await press(page, "New seal on");
  await step(page, "Refit the plug by hand");
  await tickAll(page);
  await step(page, "Torque the plug");
}
