import { ahead, ALL_DONE } from "./ahead";
import { choose, comesIn, day, press, signIn, signOut, slowly, step, tab, tablet } from "./bench";
import { expect, test } from "./server";
import type { Locator, Page } from "@playwright/test";

const V_TWIN = "Brackwell Colossine 1640, 2018";
const BOXER = "Halvane Meridan 1130, 2020";

async function toPlan(page: Page, bike: string): Promise<void> {
  const row = page.getByRole("row").filter({ hasText: bike });
  await row.getByRole("link", { name: "Plan a visit" }).click();
  await expect(page.getByRole("heading", { name: "Plan a visit" })).toBeVisible();
}

async function include(page: Page, name: string | RegExp): Promise<void> {
  const what = page.getByRole("region", { name: "What to do" });
  const box = what.getByRole("checkbox", { name, exact: true });
  if ((await box.getAttribute("aria-checked")) === "true") return;
  await box.focus();
  await page.keyboard.press("Enter");
  await expect(box).toHaveAttribute("aria-checked", "true");
}

function dayFromNow(days: number): string {
  return new Date(Date.now() + days * 86_400_000).toISOString().slice(0, 10);
}

type Act = (locator: Locator) => Promise<void>;

const byKeyboard: Act = async (locator) => {
  await locator.focus();
  await locator.press("Enter");
};
const byTouch: Act = (locator) => locator.tap();

/** From the ward to a kit in the calendar, every action by the same means. */
async function wardToKit(page: Page, name: string, act: Act): Promise<void> {
  await comesIn(page, name, V_TWIN);
  const row = page.getByRole("row").filter({ hasText: name });
  await act(row.getByRole("link", { name: "Plan a visit" }));
  const what = page.getByRole("region", { name: "What to do" });
  const boxes = [
    "primary",
    "gearbox",
    "fork, left",
    "fork, right",
    "Valve clearances, engine cold six hours",
  ].map((name) => what.getByRole("checkbox", { name, exact: true }));
  // one after another, without waiting for the plan to follow
  for (const box of boxes) {
    if ((await box.getAttribute("aria-checked")) !== "true") await act(box);
  }
  for (const box of boxes) await expect(box).toHaveAttribute("aria-checked", "true");
  await expect(page.getByRole("list", { name: "Run sheet" })).toContainText("Fork, right");
  await expect(page.getByRole("list", { name: "Run sheet" })).toContainText("Valve clearances");
  await act(
    page.getByRole("region", { name: "Kit" }).getByRole("checkbox", { name: "17 mm socket" }),
  );
  await day(page, "Plan it for", dayFromNow(30));
  await act(page.getByRole("button", { name: "Into the calendar" }));
  await expect(page.getByRole("link", { name: "Print the kit" })).toBeVisible();
  await act(page.getByRole("button", { name: "Drop it" }));
  await act(page.getByRole("button", { name: "Keep it" }));
  await act(page.getByRole("button", { name: "Drop it" }));
  await act(page.getByRole("button", { name: "Yes, drop it" }));
  await expect(page.getByText("Nothing planned.")).toBeVisible();
}

test("from the ward to a printed kit by keyboard alone", async ({ page }) => {
  await signIn(page);
  await wardToKit(page, "Cormorant", byKeyboard);
});

test("from the ward to a printed kit by touch alone @wide", async ({ browser, baseURL }) => {
  const page = await tablet(browser, baseURL);
  await signIn(page);
  await wardToKit(page, "Shag", byTouch);
  await page.context().close();
});

test("from the ward to a printed kit and an ordered run sheet: three drains, cold valves, forks", async ({
  page,
}) => {
  await signIn(page);
  await comesIn(page, "Gannet", V_TWIN);
  await toPlan(page, "Gannet");
  for (const name of ["engine", "primary", "gearbox", "fork, left", "fork, right"]) {
    await include(page, name);
  }
  await include(page, "Valve clearances, engine cold six hours");
  const sheet = page.getByRole("list", { name: "Run sheet" });
  await expect(sheet).toContainText("Valve clearances");
  await expect(page.getByText("Nothing shorter exists.")).toBeVisible();
  const steps = await sheet.getByRole("listitem").allTextContents();
  const at = (word: string) => steps.findIndex((step) => step.includes(word));
  expect(at("Valve clearances")).toBeLessThan(at("Warm it up"));
  expect(at("Fill the gearbox")).toBeLessThan(at("Run the engine"));
  const caution = "Engine: The front exhaust runs beside the plug.";
  await expect(page.getByRole("region", { name: "Be careful" })).toContainText(caution);
  await expect(sheet.getByRole("listitem").filter({ hasText: "Drain the engine" })).toContainText(
    caution,
  );

  // a wish is kept; an impossible one names what stands against it
  await page.getByRole("button", { name: /^Drain the engine,/ }).focus();
  await page.keyboard.press("Enter");
  await choose(page, "Do “Drain the engine” before", "Drain the gearbox");
  await expect(page.getByText("“Drain the engine” before “Drain the gearbox”")).toBeVisible();
  await choose(page, "Do “Drain the engine” before", "Warm it up, let it cool a little");
  await expect(page.getByText("cannot come before")).toBeVisible();
  await expect(page.getByText("“Drain the engine” before “Warm it up")).toBeVisible();
  await expect(page.getByRole("group", { name: "Run order in lanes" })).toBeVisible();
  await expect(page.getByRole("button", { name: "Into the calendar" })).toBeDisabled();
  await page.getByRole("button", { name: "take back" }).last().click();
  await expect(page.getByText("cannot come before")).toHaveCount(0);
  await expect(page.getByText("Nothing shorter exists.")).toBeVisible();

  // dragging a block asks for the same
  const block = page.getByRole("button", { name: /^Look at the front brake,/ }).first();
  const box = await block.boundingBox();
  if (!box) throw new Error("no block to drag");
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + 160, box.y + box.height / 2, { steps: 6 });
  await page.mouse.up();
  await expect(page.getByRole("button", { name: "take back" })).toHaveCount(2);

  // the kit is ticked on the tablet, the ticks stay over a reload of it, and it is printed
  const kit = page.getByRole("region", { name: "Kit" });
  await kit.getByRole("checkbox", { name: "8 mm hex key" }).click();
  await expect(kit.getByRole("checkbox", { name: "8 mm hex key" })).toBeChecked();
  await expect(kit.getByRole("checkbox", { name: /^Skarholm Amber/ })).toContainText("buy");
  await day(page, "Plan it for", "2020-01-01");
  await press(page, "Into the calendar");
  await expect(page.getByText("today or later")).toBeVisible();
  await day(page, "Plan it for", dayFromNow(12));
  await press(page, "Into the calendar");
  await expect(page.getByRole("heading", { name: "Calendar" })).toBeVisible();
  const href = await page.getByRole("link", { name: "Print the kit" }).getAttribute("href");
  const paper = await page.request.get(href ?? "");
  expect(paper.headers()["content-type"]).toBe("application/pdf");
  expect((await paper.body()).toString("latin1")).toContain("Kit: Gannet");
  await expect(page.getByRole("region", { name: "To buy" })).toContainText("Skarholm Amber");

  // what is bought is put on the shelf, and is no longer missing
  await page.getByRole("link", { name: "Shelf" }).click();
  await press(page, "Plate & Chain");
  await press(page, "Put a sealed 1 qt bottle there");
  // two alike are one line with their count
  await expect(
    page.getByRole("listitem").filter({ hasText: "each of 946 ml, sealed" }),
  ).toContainText("2 ×");
  const batch = page.getByLabel("Batch of the 946 ml bottle").first();
  await batch.fill("L 2207");
  await batch.press("Enter");
  await page.getByRole("button", { name: "Use some" }).first().click();
  await page.getByLabel("Used from the 946 ml bottle").fill("2 l");
  await page.keyboard.press("Enter");
  await expect(page.getByText("There is not that much there.")).toBeVisible();
  await page.getByLabel("Used from the 946 ml bottle").fill("46 ml");
  await page.keyboard.press("Enter");
  await expect(page.getByText("of 946 ml, sealed")).toHaveCount(1);
  await page.getByRole("dialog").getByRole("button", { name: "What happened" }).click();
  await expect(
    page.getByRole("row", { name: /used −46 ml Plate & Chain, 946 ml Mira/ }),
  ).toBeVisible();
  await expect(page.getByRole("row", { name: /946 ml, batch L 2207/ })).toBeVisible();
  await page.keyboard.press("Escape");
  await page.getByLabel("Seal", { exact: true }).fill("O-ring 12 mm");
  await page.getByLabel("How many").fill("5");
  await press(page, "Count");
  await page.getByRole("link", { name: "Calendar" }).click();
  await expect(page.getByRole("region", { name: "To buy" })).not.toContainText("Plate & Chain");
  const toBuy = page.getByRole("region", { name: "To buy" });
  await expect(toBuy).not.toContainText("O-ring 12 mm");
  for (const what of ["Cogwork 90", "O-ring 36 mm"]) {
    await expect(toBuy).toContainText(what);
    await press(page, `${what} has come`);
    await expect(toBuy).not.toContainText(what);
  }
  await press(page, "Drop it");
  await press(page, "Yes, drop it");
  await expect(page.getByText("Nothing planned.")).toBeVisible();
});

test("a reader looks at a plan and at two technicians' lanes", async ({ page }) => {
  await signIn(page);
  await comesIn(page, "Puffin", BOXER);
  const hands = page.getByRole("region", { name: "In what order" });
  const forTwo = async () => {
    await hands.getByText("2", { exact: true }).first().click();
    await expect(page.getByText("technician 2").first()).toBeVisible();
  };
  await toPlan(page, "Puffin");
  for (const name of ["engine", "gearbox", "final drive"]) await include(page, name);
  await forTwo();
  await signOut(page);
  await signIn(page, "piet");
  // what nobody who works has asked for is not worked out for whoever looks
  await toPlan(page, "Puffin");
  await hands.getByText("4", { exact: true }).first().click();
  await expect(page.getByText("Nobody who works here has asked for this order")).toBeVisible();
  await forTwo();
  await expect(page.getByRole("button", { name: "Into the calendar" })).toHaveCount(0);
});

test("a planned visit is started from the calendar and ticks itself off", async ({ page }) => {
  await signIn(page);
  await comesIn(page, "Plover", BOXER);
  await toPlan(page, "Plover");
  const proposed = await page
    .getByRole("checkbox", { checked: true })
    .evaluateAll((boxes) => boxes.map((box) => box.getAttribute("aria-label") ?? ""));
  for (const name of proposed.filter((one) => one !== "final drive")) {
    const box = page.getByRole("checkbox", { name, exact: true });
    await box.click();
    await expect(box).not.toBeChecked();
  }
  await include(page, "final drive");
  await include(page, "front brake");
  await page.getByRole("group", { name: "Who" }).getByRole("button", { name: "Mira" }).click();
  await day(page, "Plan it for", dayFromNow(1));
  await press(page, "Into the calendar");
  const row = page.getByRole("row").filter({ hasText: "Plover" });
  await expect(page.getByRole("row", { name: /^Mira .*Plover/ })).toBeVisible();
  await row.getByRole("link", { name: "Open" }).click();
  await expect(page.getByRole("button", { name: "Keep the change" })).toBeDisabled();

  // the ward leads to it as well
  await page.getByRole("link", { name: "Ward", exact: true }).click();
  await row.getByRole("link", { name: /^Planned / }).click();
  await expect(page.getByRole("button", { name: "Keep the change" })).toBeDisabled();

  // moved by a day; somebody else's older copy of it does not overwrite that
  const other = await page.context().newPage();
  await other.goto(page.url());
  await expect(other.getByRole("button", { name: "Keep the change" })).toBeVisible();
  await day(page, "Planned for", dayFromNow(2));
  await press(page, "Keep the change");
  await expect(page.getByRole("heading", { name: "Calendar" })).toBeVisible();
  await day(other, "Planned for", dayFromNow(5));
  await press(other, "Keep the change");
  await expect(other.getByText("Mira changed this visit meanwhile")).toBeVisible();
  await other.close();

  // one of the two on its own, from the bike: wrong odometer first
  await row.getByRole("link", { name: "Plover" }).last().click();
  await tab(page, "final drive");
  await press(page, "Service the final drive");
  await page.getByLabel("Odometer now").fill("19 000");
  await press(page, "Start the run sheet");
  await expect(page.getByRole("dialog").getByText("20 000")).toBeVisible();
  await page.getByLabel("Odometer now").fill("20 010");
  await press(page, "Start the run sheet");
  await ahead(page, ALL_DONE, "180 ml");
  await press(page, "Sign");
  await step(page, "Signed and closed");

  // what is done is ticked off; the rest can be let go
  await page.getByRole("link", { name: "Calendar" }).click();
  await expect(row.getByRole("link", { name: "final drive, done" })).toBeVisible();
  await row.getByRole("link", { name: "Open" }).click();
  await expect(page.getByText("Done in this visit.")).toBeVisible();
  await expect(page.getByRole("list", { name: "Run sheet" })).not.toContainText("Drain");
  const letGo = await slowly(page, "**/api/calendar/");
  await page.getByRole("link", { name: "Calendar" }).first().click();
  await row.getByRole("button", { name: "Close without the rest" }).click();
  await row.getByRole("button", { name: "Yes, close it" }).click();
  await expect(page.getByText("Nothing planned.")).toBeVisible();
  // a page asked for before that, and answered only now, does not bring it back
  await letGo();
  await expect(row).toHaveCount(0);
});
