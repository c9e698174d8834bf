import { ahead } from "./ahead";
import {
  comesIn,
  dryTwice,
  lookBack,
  press,
  signIn,
  startVisit,
  step,
  tickAll,
  wait,
} from "./bench";
import { expect, test } from "./server";

test("a plug pulled too far, its thread looked at; a cover that leaks is closed", async ({
  page,
}) => {
  await signIn(page);
  await comesIn(page, "Wigeon", "Tarrow Scree 300, 2023");
  await startVisit(page, "Wigeon", "20 010", "drain only");
  await ahead(page, "Torque the plug");
  const reading = page.getByLabel("Reading");
  await reading.fill("40 N·m");
  await press(page, "Write it down");
  await press(page, /is right$/);
  await step(page, "Look at the thread");
  await expect(page.getByText("40.0 N·m is over its torque by far.")).toBeVisible();
  await press(page, "Good, both of them");
  await step(page, "Seal on the plug");
  await press(page, "New seal on");
  await step(page, "Refit the plug by hand");
  await tickAll(page);
  // its old reading stands nowhere: one tap says that the wrench clicked where it was set
  await step(page, "Torque the plug");
  await expect(reading).toHaveValue("");
  await press(page, /^Clicked at/);
  await step(page, "Fill");
  await ahead(page, "Look for leaks");
  await press(page, "Leak at the cover");
  await step(page, "What ran out?");
  await press(page, "nothing, only tightened");
  await step(page, "Close the cover");
  await tickAll(page);
  await step(page, "Run the engine");
  await wait(page);
  await dryTwice(page);
  await step(page, "Finish");
  await tickAll(page);
  await step(page, "All done. Sign it off.");
  await lookBack(page, "Look at the thread");
  await expect(page.getByText("good, both of them").first()).toBeVisible();
});

test("a thread that is hurt stops the visit until a lead says how it was mended", async ({
  page,
}) => {
  await signIn(page);
  await comesIn(page, "Garefowl", "Tarrow Scree 300, 2023");
  await startVisit(page, "Garefowl", "20 010", "drain only");
  await ahead(page, "Torque the plug");
  await press(page, "Pulled too far");
  await step(page, "Look at the thread");
  await press(page, "Hurt");
  await expect(page.getByText(/its thread is hurt/).first()).toBeVisible();
  const address = page.url();
  await signIn(page, "oda");
  await page.goto(address);
  await page.getByLabel("Why, in a lead's words").fill("Thread insert, M12");
  await press(page, "Lift the hold");
  await expect(page.getByText(/its thread is hurt/)).toHaveCount(0);
  await ahead(page, "All done. Sign it off.");
  const stopped = page.getByRole("list", { name: "What stopped it" });
  await expect(stopped).toContainText("Thread insert, M12");
  await expect(stopped).toContainText("Oda");
});
