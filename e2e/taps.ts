import { expect, test } from "./server";
import { signIn, step, tablet } from "./bench";
import { touch, walk } from "./visit";

/** Not a test: what three drains cost in presses and fields, for `./ward bench taps`. */
test("three drains from the ward to the signature", async ({ browser, baseURL }) => {
  const page = await tablet(browser, baseURL);
  await signIn(page);
  const hand = touch();
  await hand.press(page.getByRole("link", { name: "Grey Heron" }).first());
  await hand.press(page.getByRole("button", { name: "Service the engine" }));
  await hand.fill(page.getByLabel("Odometer now"), "61 300");
  await hand.press(page.getByRole("button", { name: "Something else in the same visit?" }));
  for (const name of ["primary", "gearbox"]) {
    await hand.press(page.getByRole("dialog").getByRole("checkbox", { name }));
  }
  await hand.press(page.getByRole("button", { name: "Start the run sheet" }));
  await step(page, "Cold checks");
  await walk(page, hand);
  await hand.press(page.getByRole("button", { name: "Sign", exact: true }));
  await step(page, "Signed and closed");
  expect(hand.actions).toBeGreaterThan(0);
  console.log(
    `three drains, ward to signature: ${hand.actions} actions (presses and fields), ` +
      `${hand.keys} keystrokes in them`,
  );
  await page.context().close();
});
