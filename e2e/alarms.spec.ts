import { comesIn, press, signIn, step, tickAll } from "./bench";
import { expect, test } from "./server";

test("what stands above the step stays in sight, in one line, however far one scrolls", async ({
  page,
}) => {
  await signIn(page);
  await comesIn(page, "Stint", "Brackwell Colossine 1640, 2018");
  await page.getByRole("link", { name: "Stint" }).click();
  await press(page, "Service the engine");
  await page.getByLabel("Odometer now").fill("20 010");
  await press(page, "Start the run sheet");
  await step(page, "Cold checks");
  await tickAll(page);
  await step(page, "Warm it up");
  await press(page, "Start");
  await press(page, "Done early");
  await step(page, "Support the bike");
  await tickAll(page);
  await step(page, "Prove the filler opens");
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
