import { choose, chosen, press, signIn, signOut, tab } from "./bench";
import { expect, test } from "./server";

test("a fluid is entered, says what its values satisfy, and is blended", async ({ page }) => {
  await signIn(page);
  await page.getByRole("link", { name: "Shelf" }).click();
  await press(page, "New fluid");
  await page.getByLabel("Name", { exact: true }).fill("Tern 46");
  await choose(page, "Made for", "fork");
  await page.getByLabel("Viscosity at 40 °C").fill("46 N·m");
  await press(page, "Put it on the shelf");
  await expect(page.getByText("That is a torque. This field wants a viscosity")).toBeVisible();
  await page.getByLabel("Viscosity at 40 °C").fill("46.0");
  await page.getByLabel("Viscosity at 100 °C").fill("60");
  await press(page, "Put it on the shelf");
  await expect(page.getByText("An oil thins with heat")).toBeVisible();
  await page.getByLabel("Viscosity at 100 °C").fill("8.4");
  await page.getByLabel("Density at 15 °C").fill("0.86");
  await press(page, "Put it on the shelf");
  const row = page.getByRole("row").filter({ hasText: "Tern 46" });
  await expect(row).toContainText("ISO VG 46");
  await expect(row).toContainText("1 l at 20 °C stands as");

  const blend = page.getByRole("region", { name: "Blend two fork oils" });
  await choose(blend, "One", "Slipway 15, 15.2 cSt");
  await choose(blend, "The other", "Tern 46, 46.0 cSt");
  await blend.getByLabel("Wanted at 40 °C").fill("99");
  await expect(blend.getByText("No blend of these two reaches that viscosity.")).toBeVisible();
  await blend.getByLabel("Wanted at 40 °C").fill("26 cSt");
  await expect(blend.getByRole("status")).toContainText("26.0 cSt at 40 °C");
});

test("schools and prices are a lead's, and act where they say", async ({ page }) => {
  await signIn(page);
  await page.getByRole("link", { name: "Workshop" }).click();
  await expect(page.getByLabel("Which oil, gearbox", { exact: true })).toBeDisabled();
  await expect(page.getByLabel("An hour of work")).toBeDisabled();
  await signOut(page);
  await signIn(page, "oda");
  await page.getByRole("link", { name: "Workshop" }).click();
  await page.getByLabel("An hour of work").fill("dear");
  await press(page, "Set");
  await expect(page.getByText("“dear” is not a number")).toBeVisible();
  await page.getByLabel("An hour of work").fill("75");
  await press(page, "Set");
  await expect(page.getByLabel("An hour of work")).toHaveValue("75.00");
  await choose(page, "Which oil, gearbox", "one engine oil for all cases");
  await page.getByRole("link", { name: "Ward", exact: true }).first().click();
  await page.getByRole("link", { name: "Grey Heron" }).click();
  await tab(page, "gearbox");
  await press(page, "which oil fits?");
  const amber = page.getByRole("listitem").filter({ hasText: "Skarholm Amber" }).first();
  await expect(amber).toContainText("fits by school");
  await expect(
    page.getByText("Which oil: one engine oil for all cases (the workshop's school)").first(),
  ).toBeVisible();
  await page.keyboard.press("Escape");
  await page.getByRole("link", { name: "Workshop" }).click();
  await choose(page, "Which oil, gearbox", "no choice of its own");
  await expect(chosen(page, "Which oil, gearbox")).not.toContainText("the workshop's school");
});
