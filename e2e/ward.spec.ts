import { choose, press, signIn, unchoose } from "./bench";
import { expect, test } from "./server";

test("the ward is narrowed down, grouped, and shows what the year brings", async ({ page }) => {
  await signIn(page, "piet");
  const rows = page.getByRole("rowheader");
  await expect(page.getByLabel("Reservoirs expected to be due, by month")).toBeVisible();
  await choose(page, "Any use", /^off-road/);
  await expect(page.getByRole("link", { name: "Goat" })).toBeVisible();
  await expect(page.getByRole("link", { name: "Lamplighter" })).toHaveCount(0);
  await expect(page.getByText("1 shown")).toBeVisible();
  await unchoose(page, "Any use");
  await choose(page, "Any fluid", /^75W-90, GL-5/);
  await expect(page.getByRole("link", { name: "Ferry Bell" })).toBeVisible();
  await expect(page.getByRole("link", { name: "Goat" })).toHaveCount(0);
  // of those; another journey may have left another one without its shock
  await press(page, "On hold");
  await expect(page.getByText("No bike fits that.")).toBeVisible();
  await press(page, "On hold");
  await unchoose(page, "Any fluid");
  await press(page, "Grouped by use");
  await expect(rows.filter({ hasText: /^delivery$|^vintage$/ }).first()).toBeVisible();
  await press(page, "Due in 30 days");
  await expect(page.getByRole("link", { name: "Ferry Bell" })).toHaveCount(0);
});
