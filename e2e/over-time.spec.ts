import { choose, press, signIn } from "./bench";
import { expect, test } from "./server";

test("from the ward's mark to the plugs over distance to the one finding, and to a table", async ({
  page,
}) => {
  await signIn(page);
  const row = page.getByRole("row").filter({ hasText: "Ferry Bell" });
  await row.getByRole("link", { name: "gearbox: investigate", exact: false }).click();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("gearbox over distance");

  // the newest is chosen; its neighbour is one tap away, on the drawing or by keyboard
  const chosen = page.getByRole("complementary", { name: "The chosen finding" });
  await expect(chosen).toContainText("Sample kept in the cupboard, jar 7.");
  const third = page.getByRole("button", { name: /36.500 km, .*: note/ });
  await third.focus();
  await third.press("Enter");
  await expect(chosen).toContainText("Owner hears something in fifth.");
  await page.locator(".wear_tip-at").last().click();
  await expect(chosen).toContainText("jar 7");

  const chance = page.getByRole("region", { name: "Chance that a fault grows" });
  await expect(chance.locator(".recharts-line-dots circle")).toHaveCount(6);
  await chance.getByText("As a table").click();
  await expect(chance.getByRole("row").filter({ hasText: "53" })).toContainText("investigate");
  await expect(page.getByRole("region", { name: "Wear, steel" })).toContainText("Eight in ten");
  // in print every drawing has its table
  const steel = page.getByRole("region", { name: "Wear, steel" });
  await expect(steel.getByRole("table")).toBeHidden();
  await page.emulateMedia({ media: "print" });
  await expect(steel.getByRole("table")).toBeVisible();
  await page.emulateMedia({ media: null });
  const oil = page.getByRole("region", { name: /^Came out/ });
  await oil.getByText("As a table").click();
  await expect(oil.getByRole("row").last()).toContainText("812");
  await expect(page.getByRole("region", { name: "For the owner" })).toContainText(
    "Please let us look further before the next long ride.",
  );
});

test("the ledger by keyboard: filtered, emptied, and taken off again", async ({ page }) => {
  await signIn(page);
  await page.getByRole("link", { name: "Findings", exact: true }).first().press("Enter");
  const all = page.getByRole("region", { name: "All findings" });
  await expect(all.getByRole("row").nth(1)).toBeVisible();
  await choose(page, "Any matter", "bronze");
  await expect(all.getByRole("row").nth(1)).toContainText("bronze");
  await expect(page.getByText(/^\d written down$/)).toBeVisible();
  await choose(page, "Any level", "hold");
  await expect(all.getByText("No finding fits that. Take a filter off.")).toBeVisible();
  await page.getByRole("tab", { name: "Held against each other" }).press("Enter");
  await page.getByText("gearbox", { exact: true }).last().click();
  await expect(page.getByRole("region", { name: "Held against each other" })).toContainText(
    /Too few|times the others' wear|One oil/,
  );
});

test("a sample out under its label, the simulated laboratory's answer, a file with a fault in it", async ({
  page,
}) => {
  await signIn(page, "oda");
  await page.goto("/findings");
  await page
    .getByRole("link", { name: /Red Buoy, engine/ })
    .first()
    .click();
  await press(page, "Take a sample for the laboratory");
  const label = page.getByRole("link", { name: /^Label S-/ });
  await expect(label).toBeVisible();
  const printed = await page.request.get((await label.getAttribute("href")) ?? "");
  expect(printed.headers()["content-type"]).toBe("application/pdf");
  const name = ((await label.textContent()) ?? "").replace("Label ", "");

  await page.getByRole("link", { name: "Findings", exact: true }).first().click();
  await page.getByRole("tab", { name: "Laboratory" }).click();
  const row = page.getByRole("row").filter({ hasText: name });
  await row.getByRole("button", { name: "Ask the laboratory (simulated)" }).click();
  await expect(row).toContainText("has come");
  const text = `label,received,laboratory,Fe,water\n${name},2026-11-20,North quay,31,0.3\nS-NOBODY,2026-11-20,,4,\n`;
  const file = { name: "report.csv", mimeType: "text/csv", buffer: Buffer.from(text) };
  await page.locator("input[type=file]").setInputFiles(file);
  await expect(page.getByText("Taken in:")).toBeVisible({ timeout: 60_000 });
  await expect(page.getByText("1 of 2 lines")).toBeVisible();
  await expect(page.getByRole("list", { name: "Lines that were not taken" })).toContainText(
    "Line 3, label No sample waits under the label S-NOBODY.",
  );

  await row.getByRole("link", { name: "Red Buoy, engine" }).click();
  const lab = page.getByRole("region", { name: "Laboratory" });
  await expect(lab).toContainText("Water 0.3 %: condensation or coolant.");
  const iron = page.getByRole("region", { name: /^Fe in the oil/ });
  await iron.getByText("As a table").click();
  await expect(iron.getByRole("row").filter({ hasText: "simulated" })).toHaveCount(1);
  await expect(iron.getByRole("row").filter({ hasText: "North quay" })).toHaveCount(1);
});
