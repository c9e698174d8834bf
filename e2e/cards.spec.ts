import { ahead } from "./ahead";
import { said } from "./api";
import {
  comesIn,
  dryTwice,
  inFor,
  lookBack,
  press,
  signIn,
  startVisit,
  step,
  stood,
  tablet,
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

test("a primary's ring tears; its cover is closed in a star, half and full", async ({ page }) => {
  await signIn(page);
  const bike = await comesIn(page, "Phalarope", "Brackwell Colossine 1640, 2018");
  await inFor(page, bike, "primary");
  await ahead(page, "Refit the plug by hand");
  await press(page, "Tight, loose, tight: it tore");
  // out again, and only a new one is offered
  await step(page, "Seal on the plug");
  await expect(page.getByRole("button", { name: /^Reused/ })).toHaveCount(0);
  await press(page, "New seal on");
  await step(page, "Refit the plug by hand");
  await ahead(page, "Close the cover");
  const ring = page.getByRole("group", { name: "Screws in the order 1 3 5 2 4" });
  await expect(ring).toBeVisible();
  await press(page, "Joint clean, gasket or seal looked at");
  await press(page, /^All 5 at /);
  await expect(page.getByText("Second pass: all of them to the full torque.")).toBeVisible();
  // one of them turned too easily: it is put right by itself
  await ring.getByRole("button", { name: "Screw 4 alone" }).click();
  await page.getByLabel("Reading of screw 4").fill("60 lbf·in");
  await press(page, "Write it down");
  await press(page, /is right$/);
  await press(page, /^All 5 clicked at /);
  await expect(page.getByText("Too loose. Pull again")).toBeVisible();
  await ring.getByRole("button", { name: "Screw 4 alone" }).click();
  await press(page, /^Clicked at/);
  await step(page, "Torque the filler");
});

test("two drain plugs, one wired, an element behind two screws, by fingers alone", async ({
  browser,
  baseURL,
}) => {
  const page = await tablet(browser, baseURL);
  await signIn(page);
  await comesIn(page, "Smew", "Quillon Fen 510, 1997");
  await startVisit(page, "Smew", "20 010", "with filter");
  await ahead(page, "Drain the engine");
  const tap = (name: string | RegExp) =>
    page.getByRole("button", { name, exact: typeof name === "string" }).tap();
  await tap("Plug is out");
  await step(page, "Drain the engine: crankcase plug");
  await tap("Plug is out");
  // the filter goes on while it drips, before either plug
  await page
    .getByRole("navigation", { name: "Steps" })
    .getByRole("button", { name: /Change the filter/ })
    .tap();
  await step(page, "Change the filter");
  await expect(page.getByText("Mind the way it sits")).toBeVisible();
  await tap(/^It is on/);
  await ahead(page, "Torque the plug: crankcase plug");
  await tap(/^Clicked at/);
  const wire = page.getByRole("button", { name: "Safety wire on, it pulls to the tight side" });
  // what has just come under a finger takes no tap
  await expect(async () => {
    await wire.tap({ timeout: 2000 });
    await expect(wire).toHaveCount(0, { timeout: 2000 });
  }).toPass();
  await step(page, "Torque the filter cover");
  await expect(page.getByText("Screws 1 2: once round to half")).toBeVisible();
  await ahead(page, "All done. Sign it off.");
  await page.context().close();
});

test("what was tightened by feel takes a second person, with a password", async ({ page }) => {
  await signIn(page, "oda");
  await said(
    page,
    "/api/schools/",
    {
      ...{ kind: "engine", topic: "by feel", choice: "a second person looks" },
      ...{ bike: "", seen: "" },
    },
    "put",
  );
  await signIn(page);
  await comesIn(page, "Gadwall", "Tarrow Scree 300, 2023");
  await startVisit(page, "Gadwall", "20 010", "drain only");
  await ahead(page, "Torque the plug");
  await press(page, "By feel");
  await expect(page.getByText("A second person looks at it and says so.")).toBeVisible();
  await page.getByLabel("Who looked").fill("mira");
  await page.getByLabel("PIN or password").fill("harbour-mira");
  await press(page, "I looked at it");
  await expect(page.getByText("Whoever pulled it cannot be the second person.")).toBeVisible();
  await page.getByLabel("Who looked").fill("oda");
  await page.getByLabel("PIN or password").fill("harbour-oda");
  await press(page, "I looked at it");
  await step(page, "Fill");
  await expect(await stood(page, "engine")).toContainText("tight by feel");
});
