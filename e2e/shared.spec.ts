import { cameIn, comesIn, press, sheetBegun, signIn, step, tickAll } from "./bench";
import { expect, test } from "./server";
import type { Browser, Page } from "@playwright/test";

const V_TWIN = "Brackwell Colossine 1640, 2018";

async function begun(page: Page, bike: string): Promise<void> {
  await signIn(page);
  await comesIn(page, bike, V_TWIN);
  await page.getByRole("link", { name: bike }).click();
  await press(page, "Service the engine");
  await page.getByLabel("Odometer now").fill("20 010");
  await sheetBegun(page);
}

/** Oda, at the same visit with a tablet of her own. */
async function colleague(browser: Browser, page: Page): Promise<Page> {
  const other = await (await browser.newContext()).newPage();
  await other.goto(new URL(page.url()).origin);
  await other.getByLabel("Name").fill("oda");
  await other.getByLabel("Password").fill("harbour-oda");
  await press(other, "Sign in");
  await expect(other.getByRole("heading", { name: "Ward", exact: true })).toBeVisible();
  await other.goto(page.url());
  return other;
}

/** From the level as it came to an open filler. */
async function opened(page: Page): Promise<void> {
  await cameIn(page);
  await press(page, "Start");
  await press(page, "Done early");
  await step(page, "Support the bike");
  await tickAll(page);
  await press(page, "It opens");
  await step(page, "Drain the engine");
}

/** From cold checks to a drained engine. */
async function drained(page: Page): Promise<void> {
  await tickAll(page);
  await opened(page);
  await press(page, "Plug is out");
  await press(page, "Dripping has stopped");
  await step(page, "Measure what came out");
}

test("a colleague's tablet: whose a step is, what is typed stays, the visit is handed over", async ({
  page,
  browser,
}) => {
  await begun(page, "Redshank");
  const other = await colleague(browser, page);
  await step(other, "Cold checks");
  await press(other, "I take this step");
  await expect(page.getByText("Oda has this step. Ask before you do it too.")).toBeVisible();
  await press(other, "Give it up");
  await expect(page.getByText("Oda has this step.")).toHaveCount(0);

  await drained(page);
  await step(other, "Measure what came out");
  const amount = page.getByLabel("Amount, as the jug shows it");
  await amount.fill("3.1");
  // meanwhile she measures it, and what is typed here stays under the hand
  await other.getByLabel("Amount, as the jug shows it").fill("3100 ml");
  await press(other, "Write it down");
  const stands = other.getByRole("button", { name: /is right$/ });
  await expect(
    stands.or(other.getByRole("heading", { name: "Read the plug" })).first(),
  ).toBeVisible();
  if (await stands.isVisible()) await stands.click();
  await step(other, "Read the plug");
  await expect(page.getByText("3100 ml").first()).toBeVisible();
  await step(page, "Measure what came out");
  await press(page, "Correct it");
  await expect(amount).toHaveValue("3.1");
  await press(page, "Back to what is next");
  await step(page, "Read the plug");

  await press(other, "Usual paste");
  await press(other, "New seal on");
  await step(other, "Refit the plug by hand");
  await tickAll(other);
  await step(page, "Torque the plug");
  await press(page, "A tip for the next one");
  await page
    .getByLabel("What comes off first, what fits, what clashes?")
    .fill("Foil over the pipe");
  await page.getByLabel(/^Tools for it/).fill("8 mm swivel");
  await press(page, "Keep it");
  await expect(other.getByText("Foil over the pipe Tools: 8 mm swivel.")).toBeVisible();
  await press(page, "Take over from Oda");
  const dialog = page.getByRole("dialog");
  await expect(dialog.getByRole("button", { name: "I have it" })).toBeDisabled();
  await dialog.getByRole("checkbox", { name: "engine: drain plug finger-tight only" }).click();
  await dialog.getByRole("button", { name: "I have it" }).click();
  await expect(other.getByRole("button", { name: "Take over from Mira" })).toBeVisible();
  await other.close();
});

test("tilted, nobody goes under it; a second pair of hands is called for and lent", async ({
  page,
  browser,
}) => {
  await begun(page, "Wheatear");
  const other = await colleague(browser, page);
  await tickAll(page);
  await opened(page);
  const stands = page.getByRole("region", { name: "How the bike stands" });
  await expect(stands).toContainText("upright, strapped down");
  await press(page, "Plug is out");
  await press(page, "Tilt it, to empty the corners");
  const dialog = page.getByRole("dialog");
  await expect(dialog).toContainText("Two hands or two people on it, nobody under it");
  await expect(dialog.getByRole("checkbox", { name: "Strapped down" })).toBeDisabled();
  await dialog.getByRole("button", { name: "So it stands" }).click();
  const loose = other.getByRole("region", { name: "The bike is not strapped" });
  await expect(loose).toContainText("tilted, not strapped (Mira,");

  await press(page, "I need a second pair of hands");
  await expect(other.getByText("Mira needs a second pair of hands")).toBeVisible();
  // she is told at whatever she does, and one press brings her there
  await other.getByRole("link", { name: "Shelf", exact: true }).click();
  await other.getByRole("status").getByText("Mira needs a second pair of hands").click();
  await press(other, "I lend a hand");
  const hands = page.getByRole("region", { name: "A second pair of hands" });
  await expect(hands).toContainText("Oda lends a hand at “Drain the engine”");
  await press(page, "That was it");
  await expect(hands).toHaveCount(0);

  await press(page, "Dripping has stopped");
  await page.getByLabel("Amount, as the jug shows it").fill("3100 ml");
  await press(page, "Write it down");
  const right = page.getByRole("button", { name: /is right$/ });
  await expect(
    right.or(page.getByRole("heading", { name: "Read the plug" })).first(),
  ).toBeVisible();
  if (await right.isVisible()) await right.click();
  await press(page, "Usual paste");
  await press(page, "New seal on");
  await step(page, "Refit the plug by hand");
  await expect(page.getByText("the bike is not strapped down")).toBeVisible();
  await press(page, "It stands upright, strapped down");
  await expect(loose).toHaveCount(0);
  await tickAll(page);
  await step(page, "Torque the plug");
  await other.close();
});

test("it waits for a part, and goes on the next day; what was forgotten is remembered", async ({
  page,
}) => {
  await begun(page, "Dotterel");
  await press(page, "It happened earlier");
  await press(page, "5 min ago");
  await expect(page.getByText(/It is written down as of .*, remembered/)).toBeVisible();
  await tickAll(page);
  await step(page, "The level as it came");
  const steps = page.getByRole("navigation", { name: "Steps" });
  await steps.getByRole("button", { name: /^. Done \d/ }).click();
  await steps.getByRole("button", { name: "Cold checks" }).click();
  await expect(page.getByText(/, remembered$/)).toBeVisible();
  await press(page, "Back to what is next");

  await opened(page);
  await press(page, "It has to wait");
  const dialog = page.getByRole("dialog");
  await expect(dialog.getByText("engine: filler opened, loose")).toBeVisible();
  await dialog.getByText("something else").click();
  await expect(dialog.getByRole("button", { name: "Let it wait" })).toBeDisabled(); // for what?
  await dialog.getByText("a part", { exact: true }).click();
  await dialog.getByLabel("Which, and what of it?").fill("crush washer 12 mm");
  await dialog.getByRole("button", { name: "Let it wait" }).click();
  const waits = page.getByRole("region", { name: "What it waits for" });
  await expect(waits).toContainText("Waits for a part: crush washer 12 mm since");
  await expect(waits).toContainText("Not safe as it stands");
  await page.getByRole("link", { name: "Ward", exact: true }).click();
  await expect(page.getByText(/Waits for a part: crush washer 12 mm, since/)).toBeVisible();
  await page.goBack();
  await page.reload(); // the next day
  await press(page, "It goes on");
  await expect(waits).toHaveCount(0);
  await step(page, "Drain the engine");
});

test("what the server can never take is set aside, shown, kept over a reload, and blocks nothing", async ({
  page,
}) => {
  await begun(page, "Godwit");
  const refusal = {
    type: "about:blank",
    title: "",
    code: "visit.closed",
    question: false,
    errors: [],
  };
  await page.route(
    "**/entries/",
    (route) =>
      route.fulfill({
        status: 409,
        contentType: "application/problem+json",
        body: JSON.stringify({ ...refusal, status: 409, detail: "This visit is closed." }),
      }),
    { times: 1 },
  );
  await tickAll(page);
  await expect(page.getByText("This visit is closed.").first()).toBeVisible();
  await page.reload();
  await expect(page.getByText("This visit is closed.").first()).toBeVisible();
  const steps = page.getByRole("navigation", { name: "Steps" });
  await steps.getByRole("button", { name: /Waits/ }).click();
  await steps.getByRole("button", { name: /^Warm it up/ }).click();
  const aside = page.getByRole("list", { name: "Not written down" });
  await expect(aside).toContainText("Not written down: “Cold checks”. This visit is closed.");
  await press(page, "See to it");
  await tickAll(page); // put right: the next one goes through, and the one set aside is gone
  await step(page, "The level as it came");
  await expect(aside).toHaveCount(0);
});
