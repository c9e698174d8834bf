import AxeBuilder from "@axe-core/playwright";
import { comesIn, press, sheetBegun, signIn, tab } from "./bench";
import { expect, test } from "./server";
import type { Locator, Page } from "@playwright/test";

const TAGS = ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa"];

/** WCAG 2.2 AA on what stands on the screen now; each fault is named with its place. ``again``: in another
 * size, where the colours are the same. */
async function accessible(page: Page, view: string, again = false): Promise<void> {
  await page.waitForTimeout(300);
  // one page without frames: looked at where it stands, and told of faults alone
  // what a tap let rest is dimmed for a moment, and no press reaches it meanwhile
  await expect(page.locator("[data-resting]")).toHaveCount(0);
  const axe = new AxeBuilder({ page }).options({
    resultTypes: ["violations"],
    rules: { "color-contrast": { enabled: !again } },
  });
  const found = await axe.setLegacyMode().withTags(TAGS).analyze();
  const faults = found.violations.flatMap((rule) =>
    rule.nodes.map((node) => `${rule.id}: ${node.target.join(" ")} ${node.failureSummary ?? ""}`),
  );
  expect(faults, view).toEqual([]);
}

// a bench's tablet is tapped
test.use({ hasTouch: true });

/** What is tapped is at least 44 px high where a finger taps it; a link in a sentence is as high as that. */
async function ruled(page: Page, view: string): Promise<void> {
  const small = await page.evaluate(() => {
    const boxes = "label, .ant-select, .ant-input-affix-wrapper, .ant-picker, .ant-tabs-tab";
    const wide = (el: Element) => getComputedStyle(el, "::after").position === "absolute";
    return [...document.querySelectorAll("a[href], button, [role=tab], input, [role=combobox]")]
      .filter((el) => el instanceof HTMLElement && el.tabIndex >= 0 && !wide(el))
      .filter((el) => !(el.matches("a") && el.closest("p, .ant-form-item-extra")))
      .filter((el) => getComputedStyle(el).clipPath === "none")
      .map((el) => ({ el, box: (el.closest(boxes) ?? el).getBoundingClientRect() }))
      .filter(({ box }) => box.width > 1 && box.height > 1 && box.height < 43.5)
      .map(({ el, box }) => `${el.textContent || el.ariaLabel}: ${Math.round(box.height)} px`);
  });
  expect(small, `${view}, for a finger`).toEqual([]);
}

const SIZES = [
  { width: 1280, height: 800 },
  { width: 800, height: 1280 },
  { width: 390, height: 844 },
];

const WIDE = "OILWARD_PROPERTIES" in process.env;

/** Nothing sticks out of the page to the side. */
async function whole(page: Page, view: string): Promise<void> {
  // turned, it takes a moment to lay itself out anew
  const out = () => page.evaluate(() => document.documentElement.scrollWidth - innerWidth);
  await expect.poll(out, `${view} is wider than the screen`).toBeLessThanOrEqual(0);
}

/** One view in every size: whole, and accessible. */
async function look(page: Page, view: string): Promise<void> {
  for (const size of SIZES) {
    await page.setViewportSize(size);
    const name = `${view}, ${size.width}x${size.height}`;
    // held upright it shows what it shows lying down, or on a phone
    if (size !== SIZES[1] || WIDE) await accessible(page, name, size !== SIZES[0]);
    await whole(page, name);
    if (size === SIZES[0]) await ruled(page, name);
  }
  await page.setViewportSize(SIZES[0] ?? { width: 1280, height: 800 });
}

/** Sets the PIN of whoever is signed in as oda; where it is set. */
async function setPin(page: Page, figures: string): Promise<Locator> {
  await page.goto("/own");
  const pin = page.getByRole("region", { name: "PIN" });
  await pin.getByLabel("Your password now").fill("harbour-oda");
  await pin.getByLabel("Four to eight figures").fill(figures);
  await press(page, "Set it");
  return pin;
}

async function room(page: Page, name: string): Promise<void> {
  await page.getByRole("link", { name, exact: true }).first().click();
  await expect(page.getByRole("heading", { level: 1, name })).toBeVisible();
}

test("the door and the ward are whole and accessible in three sizes", async ({ page }) => {
  await page.goto("/");
  await expect(page.getByLabel("Name")).toBeVisible();
  await look(page, "sign in");
  await signIn(page, "oda");
  await expect(page.getByRole("link", { name: "Goat" })).toBeVisible();
  await look(page, "ward");
});

for (const name of ["Findings", "Calendar", "Shelf", "Spec sheets", "Workshop"]) {
  test(`${name}: whole and accessible in three sizes`, async ({ page }) => {
    await signIn(page, "oda");
    await room(page, name);
    await page.waitForLoadState("networkidle");
    await look(page, name);
  });
}

test("plugs over distance are whole and accessible in three sizes", async ({ page }) => {
  await signIn(page, "oda");
  await room(page, "Findings");
  await page
    .getByRole("link", { name: /Ferry Bell, gearbox/ })
    .first()
    .click();
  await expect(page.getByRole("region", { name: "Wear, steel" })).toBeVisible();
  await look(page, "plugs over distance");
});

test("oneself and somebody else are whole and accessible in three sizes", async ({ page }) => {
  await signIn(page, "oda");
  await setPin(page, "1111");
  await expect(page.getByText("Anybody tries that PIN first.")).toBeVisible();
  await look(page, "oneself, with a refusal");
  await page.goto("/workshop/people");
  await press(page, "Change Runa");
  await expect(page.getByRole("dialog")).toBeVisible();
  await look(page, "somebody");
});

test("what a lead keeps, and a bench's tablet, are whole and accessible in three sizes", async ({
  page,
}) => {
  await signIn(page, "oda");
  const pin = await setPin(page, "2580");
  await expect(pin.getByRole("status")).toHaveText("Set.");
  await page.goto("/workshop/people");
  for (const [name, region] of [
    ["People", "People"],
    ["Owners", "Owners"],
    ["Who changed what", "Who changed what"],
    ["Backups", "Backups"],
    ["Tablets", "Tablets"],
  ] as const) {
    await page.getByRole("link", { name, exact: true }).click();
    await expect(page.getByRole("region", { name: region })).toBeVisible();
    await look(page, name);
  }
  await press(page, "Pair this tablet");
  await page.getByLabel("Where it belongs").fill("Bench 4");
  await press(page, "Pair it");
  await expect(page.getByRole("button", { name: "Oda" })).toBeVisible();
  await look(page, "a bench's tablet");
  await page.getByRole("button", { name: "Oda" }).click();
  await look(page, "a PIN");
});

test("a bike, its plan and its card are whole and accessible in three sizes", async ({ page }) => {
  await signIn(page, "oda");
  await page.getByRole("link", { name: "Ferry Bell" }).click();
  await expect(page.getByRole("heading", { name: "Ferry Bell" })).toBeVisible();
  await tab(page, "gearbox");
  await look(page, "bike, gearbox");
  await tab(page, "The bike");
  await look(page, "bike, card");
  const address = page.url();
  await page.goto(`${address}/plan`);
  await expect(page.getByRole("heading", { name: "In what order" })).toBeVisible();
  await look(page, "plan");
  await page.goto(`${address}/card`);
  await page.getByLabel("Called").fill("");
  await press(page, "Save the bike");
  await expect(page.getByText("Give it a name.")).toBeVisible();
  await look(page, "bike's form with a refusal");
});

test("a draft and what fits are whole and accessible in three sizes", async ({ page }) => {
  await signIn(page, "oda");
  await page.getByRole("link", { name: "Spec sheets" }).click();
  await page
    .getByRole("link", { name: /approved by/ })
    .first()
    .click();
  await page.getByRole("button", { name: /^(Change it in a|Go to) draft/ }).click();
  await page.getByLabel("Capacity, with filter").fill("much");
  await page.getByLabel("Capacity, with filter").press("Enter");
  await expect(page.getByRole("alert")).toContainText("Type it like");
  await look(page, "draft with a refusal");
  await tab(page, "Bike map");
  await look(page, "draft, map");
  await page.getByRole("link", { name: "Ward", exact: true }).click();
  await page.getByRole("link", { name: "Ferry Bell" }).click();
  await tab(page, "gearbox");
  await press(page, "which oil fits?");
  await expect(page.getByText("Asked for:")).toBeVisible();
  await accessible(page, "which oil fits");
});

test("dialogs and the bench are whole and accessible in three sizes", async ({ page }) => {
  await signIn(page, "oda");
  await comesIn(page, "Turnstone", "Osprand Tandem 890, 2022");
  await page.getByRole("link", { name: "Turnstone" }).click();
  await press(page, "Done elsewhere, or topped up");
  await look(page, "done elsewhere");
  await page.keyboard.press("Escape");
  await press(page, "Service the engine");
  await press(page, "Something else in the same visit?");
  await page.getByRole("dialog").getByRole("checkbox", { name: "front brake" }).click();
  await look(page, "starting a visit");
  await page.getByLabel("Odometer now").fill("20 010");
  await sheetBegun(page);
  const steps = page.getByRole("navigation", { name: "Steps" });
  await steps.getByRole("button", { name: /Waits/ }).click();
  await look(page, "bench, ticks");
  await press(page, "A tip for the next one");
  await accessible(page, "writing a tip");
  await page.keyboard.press("Escape");
  await press(page, "It happened earlier");
  await press(page, "It has to wait");
  await accessible(page, "what it waits for");
  await press(page, "Let it wait");
  await expect(page.getByRole("region", { name: "What it waits for" })).toBeVisible();
  await look(page, "bench, waiting");
  await press(page, "It goes on");
  await steps.getByRole("button", { name: /^engine Drain the engine/ }).click();
  await press(page, "Plug is out");
  await press(page, "It happened all the same");
  await expect(page.getByRole("alert").first()).toContainText("Say what you found");
  await look(page, "bench, stopped and dripping");
});
