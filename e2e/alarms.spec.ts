import { comesIn, press, signIn, startVisit } from "./bench";
import { ahead } from "./ahead";
import { expect, test } from "./server";

test("what stands above the step stays in sight, in one line, however far one scrolls", async ({
  page,
}) => {
  await signIn(page);
  await comesIn(page, "Stint", "Brackwell Colossine 1640, 2018");
  await startVisit(page, "Stint", "20 010");
  await ahead(page, "Prove the filler opens");
  await press(page, "It stands otherwise");
  await page.getByRole("dialog").getByText("tilted", { exact: true }).click();
  await press(page, "So it stands");
  const above = page.getByRole("region", { name: "The bike is not strapped" });
  await expect(above).toBeVisible();
  const line = page.getByRole("button", { name: "Bike tilted, not strapped" });
  await expect(line).toHaveCount(0);

  // a window as low as one with a keyboard on it
  await page.setViewportSize({ width: 1280, height: 380 });
  await page.mouse.move(600, 200);
  await page.mouse.wheel(0, 2000);
  await expect(line).toBeInViewport();
  const box = await line.boundingBox();
  expect(box?.height).toBe(44);
  await line.click();
  await expect(above).toBeInViewport();
  await expect(line).toHaveCount(0);
});
