import { press, signIn, slowly } from "./bench";
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

test("used oil: what is in the container, who took it, and the slip", async ({ page }) => {
  await signIn(page);
  await page.getByRole("link", { name: "Shelf" }).click();
  const used = page.getByRole("region", { name: "Used oil" });
  await expect(used).toContainText("of 60 l");
  const amount = used.getByLabel("How much used oil");
  await amount.fill("a lot");
  await press(page, "Poured in");
  await expect(used.getByRole("alert")).toBeVisible();
  await expect(amount).toHaveValue("a lot");
  // other visits pour into the same container: what stands in it is said first
  await amount.fill("31 l");
  await press(page, "Found in it");
  await expect(used).toContainText("31 l found in it");
  await expect(amount).toHaveValue("");
  // the hand types on while the last line is still on its way: nothing of it is lost
  const answered = await slowly(page, "**/api/shelf/waste/");
  await amount.fill("20 l");
  await press(page, "Poured in");
  await amount.fill("4 l");
  await answered();
  await expect(used).toContainText("20 l poured in");
  await expect(amount).toHaveValue("4 l");
  await press(page, "Poured in");
  await expect(used).toContainText("Nearly full: have it collected.");
  // a slip of the hand is put right by what is found in it
  await amount.fill("540 l");
  await press(page, "Poured in");
  await expect(used).toContainText("595 l of 60 l");
  await amount.fill("55 l");
  await press(page, "Found in it");
  await expect(used).toContainText("55 l of 60 l");
  await amount.fill("54 l");
  await used.getByLabel("Who took it").fill("recycling boat, slip 2240");
  await press(page, "Collected");
  await expect(used).toContainText("recycling boat, slip 2240");
  await expect(used).not.toContainText("Nearly full");
  const slip = used.getByRole("link", { name: "Print the slip" }).first();
  const paper = await page.request.get((await slip.getAttribute("href")) ?? "");
  expect(paper.headers()["content-type"]).toBe("application/pdf");
  expect((await paper.body()).toString("latin1")).toContain("Used oil");
});
