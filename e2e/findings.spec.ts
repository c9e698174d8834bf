import { comesIn, press, sheetBegun, signIn, step } from "./bench";
import { ahead } from "./ahead";
import { expect, test } from "./server";

test("a fragment on the plug holds the visit; a lead hands the bike back, and later lifts it", async ({
  page,
  browser,
}) => {
  await signIn(page);
  await comesIn(page, "Sandpiper", "Brackwell Colossine 1640, 2018");
  await page.getByRole("link", { name: "Sandpiper" }).click();
  await press(page, "Service the engine");
  await page.getByLabel("Odometer now").fill("20 010");
  await sheetBegun(page);
  await ahead(page, "Measure what came out");
  await page.getByLabel("Amount, as the jug shows it").fill("3400 ml");
  await press(page, "Write it down");
  await step(page, "Read the plug");
  await press(page, "fragments");
  await page.getByLabel("Share, %").fill("5");
  await press(page, "Write it down");
  const hold = page.getByRole("alert").filter({ hasText: "Hold" });
  await expect(hold).toContainText("Engine: gear tooth or broken part. Do not run it.");
  // a technician is told what to do, and has nothing to lift it with
  await expect(hold).toContainText("A lead lifts it with a reason, or hands the bike back.");
  await expect(hold.getByRole("button")).toHaveText(["Look back at it"]);

  const lead = await (await browser.newContext({ baseURL: new URL(page.url()).origin })).newPage();
  await signIn(lead, "oda");
  await lead.goto(page.url());
  const back = lead.getByRole("button", { name: "Hand it back, not to be ridden" });
  await expect(back).toBeDisabled(); // not without a word on it
  await lead.getByLabel("Why, in a lead's words").fill("Gearbox has to be opened; owner decides");
  await back.click();
  await expect(page.getByText("It goes back to its owner as it stands")).toBeVisible();
  await press(page, "Leave this visit");
  await page.getByLabel("What was agreed with the owner?").fill("Owner fetches it by van");
  await press(page, "Leave it");
  await step(page, "Handed back, not to be ridden");

  await lead.getByRole("link", { name: "Ward", exact: true }).first().click();
  const row = lead.getByRole("row").filter({ hasText: "Sandpiper" });
  await expect(row).toContainText("On hold.");
  await lead.getByRole("link", { name: "Sandpiper" }).click();
  await press(lead, "Looked into it");
  const dialog = lead.getByRole("dialog");
  await dialog.getByText("lifted", { exact: true }).click();
  await dialog.getByLabel("In your words").fill("Rebuilt elsewhere, new gears");
  await dialog.getByRole("button", { name: "Write it down" }).click();
  await expect(lead.getByText("Rebuilt elsewhere, new gears (Oda,")).toBeVisible();
  await expect(lead.getByRole("button", { name: "Looked into it" })).toHaveCount(0);
  await lead.getByRole("link", { name: "Ward", exact: true }).first().click();
  await expect(row).not.toContainText("On hold.");
  await lead.context().close();
});
