import { createHmac } from "node:crypto";
import type { Browser, Page } from "@playwright/test";
import { said } from "./api";
import { choose, press, signIn } from "./bench";
import { expect, test } from "./server";

const WORDS = "four wet ropes";

test("somebody is added, comes in by their link, taps in at a bench, changes role, and goes", async ({
  page,
  browser,
}) => {
  await signIn(page, "oda");
  await page.getByRole("link", { name: "Workshop", exact: true }).click();
  await page.getByRole("link", { name: "People", exact: true }).click();
  await press(page, "Add somebody");
  const asked = page.getByRole("dialog");
  await asked.getByLabel("Name to sign in with").fill("Bram 7");
  await asked.getByLabel("Name, as it stands on sheets").fill("Bram");
  await asked.getByText("tyres", { exact: true }).click();
  await press(page, "Add, and make the link");
  // nothing typed is lost, and the sentence says what to do
  await expect(asked.getByText(/^A sign-in name has small letters/)).toBeVisible();
  await asked.getByLabel("Name to sign in with").fill("bram");
  await press(page, "Add, and make the link");
  const link = await page.getByLabel("The link").inputValue();
  await press(page, "Done");
  await expect(page.getByRole("row").filter({ hasText: "Bram" })).toContainText("no password yet");

  // Bram, on a device of his own
  const own = await (await browser.newContext()).newPage();
  await own.goto(link);
  await expect(own.getByRole("heading", { name: "Welcome, Bram" })).toBeVisible();
  await own.getByLabel(/^Choose a password/).fill("qwerty123456");
  await press(own, "Come in");
  await expect(own.getByText("Anybody tries that password first.")).toBeVisible();
  await own.getByLabel(/^Choose a password/).fill("four wet ropes");
  await own.getByLabel(/^A PIN/).fill("2580");
  await press(own, "Come in");
  await expect(own.getByRole("heading", { name: "Ward" })).toBeVisible();
  await own.getByRole("link", { name: "Bram, technician" }).click();
  await choose(own, "Torques", "lbf·ft");
  await own.getByRole("region", { name: "Units" }).getByRole("button", { name: "Set" }).click();
  await expect(own.getByText("Everything is said in them from now on.")).toBeVisible();

  // a lead pairs a tablet; it shows names, and takes a PIN
  const tablet = await (await browser.newContext()).newPage();
  await signIn(tablet, "oda");
  await tablet.goto("/workshop/tablets");
  await press(tablet, "Pair this tablet");
  await tablet.getByLabel("Where it belongs").fill("Bench 2, left");
  await press(tablet, "Pair it");
  await tablet.getByRole("button", { name: "Bram" }).click();
  for (const figure of ["2", "5", "8", "1"]) await press(tablet, figure);
  await press(tablet, "In");
  await expect(tablet.getByText("Name and PIN do not fit together.")).toBeVisible();
  await tablet.keyboard.type("2580");
  await press(tablet, "In");
  await expect(tablet.getByRole("heading", { name: "Ward" })).toBeVisible();
  await expect(tablet.getByRole("link", { name: "Bram, technician" })).toBeVisible();

  // the role counts at once, access ends at once
  const line = page.getByRole("row").filter({ hasText: "Bram" });
  await press(page, "Change Bram");
  await choose(page, "Role", /^reader/);
  await press(page, "Save");
  await expect(line).toContainText("reader");
  await tablet.reload();
  await expect(tablet.getByRole("link", { name: "Bram, reader" })).toBeVisible();
  await press(page, "Change Bram");
  await press(page, "End their access");
  await expect(line).toContainText("access ended");
  await tablet.reload();
  await expect(tablet.getByRole("heading", { name: "Bench 2, left" })).toBeVisible();
  await expect(tablet.getByRole("button", { name: "Bram" })).toHaveCount(0);

  // and who changed what is kept
  await page.getByRole("link", { name: "Who changed what", exact: true }).click();
  const audit = page.getByRole("region", { name: "Who changed what" });
  await expect(audit.getByRole("row").nth(1)).toContainText("access ended");
  await choose(page, "What was done", "tablet paired");
  await expect(audit.getByRole("row").filter({ hasText: "Bench 2, left" })).toHaveCount(1);
  await expect(audit.getByRole("row").filter({ hasText: "access ended" })).toHaveCount(0);
  await page.getByRole("link", { name: "Tablets", exact: true }).click();
  await press(page, "Unpair Bench 2, left");
  await press(page, "Unpair it");
  await expect(page.getByRole("row").filter({ hasText: "Bench 2, left" })).toHaveCount(0);
  await tablet.reload();
  await expect(tablet.getByLabel("Password")).toBeVisible();
});

test("before an owner's data are given out the password is typed again; sessions are told and ended", async ({
  page,
  browser,
}) => {
  const other = await (await browser.newContext()).newPage();
  await signIn(other, "oda");
  await signIn(page, "oda");
  await page.goto("/workshop/owners");
  // as if the password had been typed a while ago
  const refusal = { type: "about:blank", title: "", question: false, errors: [], status: 403 };
  await page.route(
    "**/owners/data/",
    (route) =>
      route.fulfill({
        status: 403,
        contentType: "application/problem+json",
        body: JSON.stringify({ ...refusal, code: "access.prove", detail: "Type it again." }),
      }),
    { times: 2 },
  );
  const give = page.getByRole("button", { name: /^Give out what is held about/ }).first();
  await give.click();
  const asked = page.getByRole("dialog", { name: "Is it still you?" });
  await asked.getByLabel("Your password").fill("not mine");
  await asked.getByRole("button", { name: "Go on" }).click();
  await expect(asked).toContainText("That is not your password");
  await page.keyboard.press("Escape");
  await expect(page.getByText("Type it again.")).toBeVisible(); // given up: nothing was given out
  await give.click();
  await asked.getByLabel("Your password").fill("harbour-oda");
  const file = page.waitForEvent("download");
  await asked.getByRole("button", { name: "Go on" }).click();
  expect((await file).suggestedFilename()).toBe("owner.json");

  await page.goto("/own");
  const places = page.getByRole("region", { name: "Where you are signed in" });
  await expect(places).toContainText(", here");
  const ends = places.getByRole("button", { name: /^End / });
  const before = await ends.count();
  await ends.first().click();
  await expect(ends).toHaveCount(before - 1);
  await expect(async () => {
    await other.reload();
    await expect(other.getByRole("button", { name: "Sign in" })).toBeVisible({ timeout: 1000 });
  }).toPass();
  await other.context().close();
});

/** What an app for one-time codes shows: RFC 6238, thirty seconds, six figures. */
function shows(secret: string, at: number): string {
  const letters = "ABCDEFGHIJKLMNOPQRSTUVWXYZ234567";
  const bits = [...secret].map((one) => letters.indexOf(one).toString(2).padStart(5, "0")).join("");
  const key = Buffer.from((bits.match(/.{8}/g) ?? []).map((octet) => parseInt(octet, 2)));
  const step = Buffer.alloc(8);
  step.writeBigUInt64BE(BigInt(Math.floor(at / 30_000)));
  const digest = createHmac("sha1", key).update(step).digest();
  const place = (digest.at(-1) ?? 0) & 15;
  return String((digest.readUInt32BE(place) & 0x7fffffff) % 1_000_000).padStart(6, "0");
}

/** A lead who came in by their link, at their own page, on a device of their own. */
async function anotherLead(page: Page, browser: Browser, name: string): Promise<Page> {
  await signIn(page, "oda");
  const { path } = await said<{ path: string }>(page, "/api/people/", {
    ...{ id: crypto.randomUUID(), username: name.toLowerCase(), name, role: "lead" },
    qualifications: [],
  });
  const own = await (await browser.newContext()).newPage();
  await own.goto(path);
  await own.getByLabel(/^Choose a password/).fill(WORDS);
  await press(own, "Come in");
  await own.getByRole("link", { name: `${name}, lead` }).click();
  return own;
}

async function byPassword(own: Page, username: string): Promise<void> {
  await own.getByLabel("Name").fill(username);
  await own.getByLabel("Password").fill(WORDS);
  await press(own, "Sign in");
}

test("a lead's second factor is set up, asked for, and cleared by another lead", async ({
  page,
  browser,
}) => {
  const own = await anotherLead(page, browser, "Lund");
  const factor = own.getByRole("region", { name: "Second factor" });
  await press(own, "Set up an app");
  const secret = (await factor.getByText(/^([A-Z2-7]{4} ?)+$/).innerText()).replaceAll(" ", "");
  await factor.getByLabel("What the app shows now").fill("000000");
  await press(own, "Confirm");
  await expect(factor.getByText(/^That is not what the app shows/)).toBeVisible();
  await factor.getByLabel("What the app shows now").fill(shows(secret, Date.now()));
  await press(own, "Confirm");
  await expect(factor.getByRole("listitem")).toHaveCount(10);
  const codes = await factor.getByRole("listitem").allInnerTexts();
  await press(own, "I have them");
  await expect(factor.getByText("10 recovery codes are left")).toBeVisible();

  // signing in asks for it, after the right password alone
  await press(own, "Sign out");
  await byPassword(own, "lund");
  await own.getByLabel(/^What your app shows now/).fill("123456");
  await press(own, "Sign in");
  await expect(own.getByText(/^That is not what your app shows now/)).toBeVisible();
  await own.getByLabel(/^What your app shows now/).fill(codes[3] ?? "");
  await press(own, "Sign in");
  await expect(own.getByRole("heading", { name: "Ward" })).toBeVisible();
  await expect(own.getByText("a second factor was set up for you")).toBeVisible();

  // the phone is lost: another lead clears it
  await page.goto("/workshop/people");
  await press(page, "Change Lund");
  await press(page, "Clear their second factor");
  await expect(page.getByRole("button", { name: "Second factor cleared" })).toBeVisible();
  await press(own, "Sign out");
  await byPassword(own, "lund");
  await expect(own.getByRole("heading", { name: "Ward" })).toBeVisible();
});

test("a passkey is made under the workshop's name, shown, and removed", async ({
  page,
  browser,
}) => {
  const own = await anotherLead(page, browser, "Sund");
  const factor = own.getByRole("region", { name: "Second factor" });
  // by number there is none, and that is said
  await expect(factor.getByText(/opened by its name/)).toBeVisible();

  const device = await own.context().newCDPSession(own);
  await device.send("WebAuthn.enable");
  const options = {
    protocol: "ctap2",
    transport: "internal",
    hasResidentKey: true,
    hasUserVerification: true,
    isUserVerified: true,
  } as const;
  const { authenticatorId } = await device.send("WebAuthn.addVirtualAuthenticator", { options });
  await own.goto(own.url().replace("127.0.0.1", "localhost"));
  await byPassword(own, "sund");
  await press(own, "Make a passkey");
  await expect(factor.getByText(/^Call it something/)).toBeVisible();
  await factor.getByLabel("Call the device that keeps it").fill("My phone");
  await press(own, "Make a passkey");
  await expect(factor.getByRole("listitem")).toHaveCount(10);
  const codes = await factor.getByRole("listitem").allInnerTexts();
  await press(own, "I have them");
  await expect(factor.getByText(/under localhost, since .*, not shown yet/)).toBeVisible();

  // the same device makes no second one, and says so
  await factor.getByLabel("Call the device that keeps it").fill("Again");
  await press(own, "Make a passkey");
  await expect(factor.getByText("This device has a passkey for you already.")).toBeVisible();

  await press(own, "Sign out");
  await byPassword(own, "sund");
  await press(own, "Use your passkey");
  await expect(factor.getByText(/under localhost, since .*, last shown/)).toBeVisible();

  // the device is not at hand: it says so, and a recovery code lets in, a wrong one does not
  await device.send("WebAuthn.removeVirtualAuthenticator", { authenticatorId });
  await device.send("WebAuthn.addVirtualAuthenticator", { options });
  await press(own, "Sign out");
  await byPassword(own, "sund");
  await press(own, "Use your passkey");
  await expect(own.getByText(/^The device gave no passkey/)).toBeVisible();
  await own.getByLabel(/^Or what your app shows now/).fill("never-given");
  await press(own, "Sign in");
  await expect(own.getByText(/^That is not what your app shows now/)).toBeVisible();
  await expect(own.getByText(/^The device gave no passkey/)).toHaveCount(0);
  await own.getByLabel(/^Or what your app shows now/).fill(codes[0] ?? "");
  await press(own, "Sign in");

  // removed, a password alone lets in again
  await press(own, "Remove My phone");
  await press(own, "Remove it");
  await expect(factor.getByText(/^Signing in by password then asks/)).toBeVisible();
  await press(own, "Sign out");
  await byPassword(own, "sund");
  await expect(factor.getByRole("button", { name: "Make a passkey" })).toBeVisible();
});
