import { cameIn, lookBack, press, signIn, step, stood, tickAll } from "./bench";
import { expect, test } from "./server";

test("wrong input gets a sentence at its field and loses nothing", async ({ page }) => {
  await signIn(page);

  // the odometer runs backwards
  await page.getByRole("link", { name: "Red Buoy" }).click();
  await press(page, "Service the engine");
  await page.getByLabel("Odometer now").fill("30 000");
  await press(page, "Start the run sheet");
  await expect(
    page.getByText("The odometer stood at 31 870 km last time; 30 000 km is less"),
  ).toBeVisible();
  await expect(page.getByLabel("Odometer now")).toHaveValue("30 000");
  await page.getByLabel("Odometer now").fill("31 950");
  await press(page, "Start the run sheet");
  await step(page, "Cold checks");

  // not everything is ticked
  await page.getByRole("checkbox").first().click();
  await press(page, "Done");
  await expect(page.getByText("Not ticked yet: Tools, seals and oil laid out.")).toBeVisible();
  await expect(page.getByRole("checkbox").first()).toHaveAttribute("aria-checked", "true");
  await tickAll(page);

  // below its low mark nobody starts it
  await step(page, "The level as it came");
  await press(page, "Below low");
  await expect(page.getByText("Do not start it like this")).toBeVisible();
  await cameIn(page);
  // skipping wants a reason
  await step(page, "Warm it up");
  await press(page, "Skip this step");
  await press(page, "Skip");
  await expect(page.getByText("Write a word on why.")).toBeVisible();
  await page.getByLabel("Why is “Warm it up” skipped?").fill("Came in warm");
  await press(page, "Skip");
  await step(page, "Support the bike");
  await tickAll(page);

  // a seized filler stops the work
  await step(page, "Prove the filler opens");
  await press(page, "Seized");
  await expect(page.getByText("The engine's filler is seized. Do not drain it.")).toBeVisible();
  await press(page, "It opens");
  await step(page, "Drain the engine");
  await press(page, "Plug is out");
  await press(page, "Dripping has stopped");

  await step(page, "Measure what came out");
  const amount = page.getByLabel("Amount, as the jug shows it");
  for (const [typed, sentence] of [
    ["20 N·m", "That is a torque. This field wants a volume"],
    ["2,750 l", "Is that 2.75 l or 2750 l?"],
    [" ", "Nothing typed yet."],
    ["-3 l", "A volume cannot be below zero."],
  ] as const) {
    await amount.fill(typed);
    await press(page, "Write it down");
    await expect(page.getByRole("alert").filter({ hasText: sentence })).toBeVisible();
    await expect(amount).toHaveValue(typed);
  }
  await amount.fill("3.1 l");
  await page.reload();
  await step(page, "Measure what came out");
  await expect(amount).toHaveValue("3.1 l");
  await press(page, "Write it down");

  await step(page, "Read the plug");
  await press(page, "slivers");
  await page.getByLabel("Share, %").fill("140");
  await press(page, "Write it down");
  await expect(page.getByText("A share of the magnet runs from 0 to 100 %")).toBeVisible();
  await expect(page.getByLabel("Share, %")).toHaveValue("140");
  await expect(page.getByRole("button", { name: "slivers", pressed: true })).toBeVisible();
  await page.getByLabel("Share, %").fill("10");
  await press(page, "Write it down");

  // a correction replaces what was written, and the old entry stays on record
  await step(page, "Seal on the plug");
  await lookBack(page, /Measure what came out/);
  await press(page, "Correct it");
  await page.getByLabel("Amount, as the jug shows it").fill("2.9 l");
  await press(page, "Write it down");
  await step(page, "Seal on the plug");
  await expect(await stood(page, "engine")).toContainText("2900 ml");
  await press(page, "New seal on");
  await step(page, "Refit the plug by hand");
  await tickAll(page);

  // foot-pounds typed where inch-pounds were meant
  await step(page, "Torque the plug");
  await page.getByLabel("Reading").fill("265 ft-lb");
  await press(page, "Write it down");
  await expect(page.getByText("Is it 265 lbf·in?")).toBeVisible();
  await press(page, "265 lbf·in");
  await step(page, "Change the filter");
});
