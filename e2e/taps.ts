import type { Page } from "@playwright/test";
import { expect, test } from "./server";
import { sheetBegun, signIn, step, tablet } from "./bench";
import { touch, walk, type Hand } from "./visit";

/** Not a test: what a visit costs in presses and fields, for `./ward bench taps`. */
async function onBike(page: Page, hand: Hand, bike: string, odometer: string, also: string[]) {
  await signIn(page);
  await hand.press(page.getByRole("link", { name: bike }).first());
  await hand.press(page.getByRole("button", { name: "Service the engine" }));
  await hand.fill(page.getByLabel("Odometer now"), odometer);
  if (also.length > 0) {
    await hand.press(page.getByRole("button", { name: "Something else in the same visit?" }));
  }
  for (const name of also) {
    await hand.press(page.getByRole("dialog").getByRole("checkbox", { name }));
  }
  await sheetBegun(page, hand.press);
}

async function toTheSignature(page: Page, hand: Hand, what: string): Promise<void> {
  const spent: string[] = [];
  let before = hand.actions;
  let last = "";
  await walk(page, hand, (title) => {
    if (last) spent.push(`${last}: ${hand.actions - before}`);
    [before, last] = [hand.actions, title];
    return Promise.resolve();
  });
  spent.push(`${last}: ${hand.actions - before}`);
  await hand.press(page.getByRole("button", { name: "Sign", exact: true }));
  await step(page, "Signed and closed");
  expect(hand.actions).toBeGreaterThan(0);
  console.log(
    `${what}, ward to signature: ${hand.actions} actions (presses and fields), ` +
      `${hand.keys} keystrokes in them`,
  );
  console.log(`  ${spent.join(" · ")}`);
}

test("three drains from the ward to the signature", async ({ browser, baseURL }) => {
  const page = await tablet(browser, baseURL);
  const hand = Object.assign(touch(), { clicks: true });
  await onBike(page, hand, "Grey Heron", "61 300", ["primary", "gearbox"]);
  await toTheSignature(page, hand, "three drains");
  await page.context().close();
});

test("a single engine from the ward to the signature", async ({ browser, baseURL }) => {
  const page = await tablet(browser, baseURL);
  const hand = Object.assign(touch(), { clicks: true });
  await onBike(page, hand, "Red Buoy", "31 950", []);
  await toTheSignature(page, hand, "a single engine");
  await page.context().close();
});
