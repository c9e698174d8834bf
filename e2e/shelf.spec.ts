import { press, signIn } from "./bench";
import { expect, test } from "./server";

test("the shelf compares fluids and says where a label and its measurements disagree", async ({
  page,
}) => {
  await signIn(page, "piet");
  await page.getByRole("link", { name: "Shelf" }).click();
  const haul = page.getByRole("row").filter({ hasText: "Tidewater Long Haul" });
  await expect(haul).toContainText("16.1 cSt at 100 °C is outside 16.3–21.9 of a 50");
  const chart = page.getByRole("img", { name: /^Viscosity over temperature/ });
  await press(page, "Draw Cogwork 90");
  await press(page, "Draw Slipway 15");
  await expect(chart).toHaveAttribute("aria-label", /Cogwork 90, Slipway 15$/);
  await expect(chart.locator("polyline")).toHaveCount(4);
  await press(page, "Draw Cogwork 90");
  await expect(chart.locator("polyline")).toHaveCount(3);
});
