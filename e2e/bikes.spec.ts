import { cameIn, choose, chosen, comesIn, day, press, signIn, step, tab, tickAll } from "./bench";
import { expect, test } from "./server";

test("a bike comes in, its odometer is asked about, and its card is changed", async ({ page }) => {
  await signIn(page);
  await page.getByRole("link", { name: "New bike" }).click();
  await press(page, "Enter the bike");
  await expect(page.getByText("Give it a name.")).toBeVisible();
  await page.getByLabel("Called").fill("Eider");
  await choose(page, "Model", "Osprand Tandem 890, 2022");
  await page.getByLabel("Odometer shows").fill("20 000");
  await press(page, "Enter the bike");
  await expect(page.getByRole("heading", { name: "Eider" })).toBeVisible();
  await expect(page.getByText("no record: do it now").first()).toBeVisible();

  await tab(page, "The bike");
  await press(page, "Read the odometer");
  await page.getByLabel("It shows now, in km").fill("12 490");
  await page.getByLabel("A new odometer was fitted").check();
  await page.getByLabel("The new one shows").fill("2");
  await press(page, "Write it down");
  await expect(page.getByText("Is it 12490 mi?")).toBeVisible();
  await press(page, "12490 mi");
  await expect(page.getByText("2 km", { exact: true }).first()).toBeVisible();

  await page.getByRole("link", { name: "Change the card" }).click();
  await page.getByLabel("Notes").fill("Left indicator cracked");
  await choose(page, "History", "known from new");
  await press(page, "Save the bike");
  await expect(page.getByText("Choose the day it was new.")).toBeVisible();
  await day(page, "New on", "2023-04-01");
  await press(page, "Save the bike");
  await tab(page, "The bike");
  await expect(page.getByText("Left indicator cracked")).toBeVisible();
});

test("a value differs on one bike, a school is its own, and the shelf is held against it", async ({
  page,
}) => {
  await signIn(page);
  await page.getByRole("link", { name: "Eider" }).click();
  await page.getByRole("button", { name: /^With filter/ }).click();
  await press(page, "Differs on this bike: Capacity, with filter");
  await page.getByLabel("What holds for this bike").fill("3 N·m");
  await press(page, "Use it for this bike");
  await expect(page.getByText("That is a torque. This field wants a volume")).toBeVisible();
  await page.getByLabel("What holds for this bike").fill("3.4 l");
  await page.getByLabel("How you know").fill("label on the case");
  await press(page, "Use it for this bike");
  // until a second person has compared it the sheet's counts
  await expect(page.getByText("3.4 l waits for a second person")).toBeVisible();
  await page.getByRole("button", { name: /^With filter/ }).click();
  await expect(page.getByText(/Mira wrote 3.4 l for this bike/)).toBeVisible();
  await press(page, "Differs on this bike: Capacity, with filter");
  await press(page, "I compared it: 3.4 l is right");
  await expect(page.getByText(/Somebody else has to check it/)).toBeVisible();
  await page.keyboard.press("Escape");

  await press(page, "which oil fits?");
  const fits = page.getByRole("listitem").filter({ hasText: "Tidewater Bench 40" }).first();
  await expect(fits).toContainText("fits");
  await page.getByText(/^Refused: /).click();
  const saver = page.getByRole("listitem").filter({ hasText: "Drizzle Saver 30" }).first();
  await expect(saver).toContainText("MB lets it slip");
  await page.keyboard.press("Escape");

  await tab(page, "The bike");
  await press(page, "Schools for this bike");
  await choose(page, "Crush washer, engine", "turned over once");
  await expect(chosen(page, "Crush washer, engine")).toContainText("turned over once");
});

test("what the sheet lacks is asked on the run sheet, and its place is shown on the map", async ({
  page,
}) => {
  // a model whose sheet does not give the drain plug's torque
  await signIn(page, "oda");
  await page.getByRole("link", { name: "Spec sheets" }).click();
  await page
    .getByRole("link", { name: /approved by/ })
    .nth(3)
    .click();
  await expect(page.getByRole("heading", { name: "Osprand Tandem 890" })).toBeVisible();
  await press(page, "Change it in a draft");
  const torque = page.getByLabel("Torque").first();
  await torque.fill("");
  await torque.press("Enter");
  const missing = page.getByRole("region", { name: "Still missing" });
  await missing.getByRole("button", { name: "drain plug, torque" }).click();
  await expect(torque).toBeFocused();
  await press(page, /Approve version/);
  await expect(page.getByText(/approved by Oda/).first()).toBeVisible();

  await page.getByRole("link", { name: "Ward", exact: true }).click();
  await page.getByRole("link", { name: "Eider" }).click();
  await press(page, "Service the engine");
  await page.getByLabel("Odometer now").fill("60");
  await press(page, "Start the run sheet");
  await step(page, "Look up: engine, drain plug, torque");
  await press(page, "Write it down");
  await expect(page.getByText("Nothing typed yet")).toBeVisible();
  await page.getByLabel("As the manual writes it").fill("27-33 N·m");
  await press(page, "Write it down");
  await expect(page.getByRole("alert").filter({ hasText: "Name the document" })).toBeVisible();
  await page.getByLabel("Document").fill("Tandem service manual");
  await page.getByLabel("Page").fill("23");
  await press(page, "Write it down");
  await step(page, "Cold checks");
  await tickAll(page);
  await cameIn(page);
  await step(page, "Warm it up");
  await press(page, "Start");
  await press(page, "Done early");
  await step(page, "Support the bike");
  await tickAll(page);
  await step(page, "Prove the filler opens");
  await expect(page.getByText("This one: engine, fill plug")).toBeVisible();
  await press(page, "It opens");
  await step(page, "Drain the engine");
  await expect(page.getByText("This one: engine, drain plug")).toBeVisible();
  await press(page, "Plug is out");
  await press(page, "Dripping has stopped");
  await page.getByRole("button", { name: "Skip this step" }).click();
  await page.getByLabel(/is skipped\?|skipped\?/).fill("Jug is in use");
  await press(page, "Skip");
  await step(page, "Read the plug");
  await press(page, "Usual paste");
  await step(page, "Seal on the plug");
  await expect(page.getByText("turned over once (this bike's school)")).toBeVisible();
  await press(page, "New seal on");
  await step(page, "Refit the plug by hand");
  await tickAll(page);
  await step(page, "Torque the plug");
  await expect(page.getByText("Nobody has checked engine, drain plug, torque")).toBeVisible();
});

/** A small red square, as a camera would never send it but a browser reads it. */
const PNG = Buffer.from(
  "iVBORw0KGgoAAAANSUhEUgAAAAoAAAAKCAIAAAACUFjqAAAAFElEQVR4nGPcYKDAgBsw4ZEbwdIAQfEBFL3bciQAAAAASUVORK5CYII=",
  "base64",
);

test("a picture of the bike is kept, one that is none is refused, and a bike is archived", async ({
  page,
}) => {
  await signIn(page);
  await page.getByRole("link", { name: "Eider" }).click();
  await tab(page, "The bike");
  const add = page.locator('input[type="file"]');
  await add.setInputFiles({ name: "x.png", mimeType: "image/png", buffer: Buffer.from("no") });
  await expect(page.getByText("That is no picture we can read.")).toBeVisible();
  await add.setInputFiles({ name: "left.png", mimeType: "image/png", buffer: PNG });
  const picture = page.getByRole("img", { name: /^Picture of/ });
  await expect(picture).toBeVisible();
  const src = (await picture.getAttribute("src")) ?? "";
  const kept = await page.request.get(src);
  expect(kept.headers()["content-type"]).toBe("image/jpeg");
  await press(page, "Remove");
  await expect(picture).toHaveCount(0);

  await page.getByRole("link", { name: "Change the card" }).click();
  await page.getByLabel("Archived: off the ward, history kept").check();
  await press(page, "Save the bike");
  await expect(page.getByText("This bike has an open visit. Sign or leave it")).toBeVisible();
  await page.getByRole("link", { name: "Ward", exact: true }).first().click();
  await comesIn(page, "Teal", "Osprand Tandem 890, 2022");
  await page.getByRole("link", { name: "Teal" }).click();
  await tab(page, "The bike");
  await page.getByRole("link", { name: "Change the card" }).click();
  await page.getByLabel("Archived: off the ward, history kept").check();
  await press(page, "Save the bike");
  await expect(page.getByText("archived ·")).toBeVisible();
  const address = page.url();
  await page.getByRole("link", { name: "Ward", exact: true }).first().click();
  await expect(page.getByRole("link", { name: "Grey Heron" })).toBeVisible();
  await expect(page.getByRole("link", { name: "Teal" })).toHaveCount(0);
  await page.goto(address);
  await expect(page.getByRole("heading", { name: "Teal" })).toBeVisible();
  await expect(page.getByRole("button", { name: "Service the engine" })).toHaveCount(0);
});

test("a reading that slipped is corrected by a lead, with a reason, and stays beside it", async ({
  page,
}) => {
  await signIn(page, "oda");
  await page.getByRole("link", { name: "New bike" }).click();
  await page.getByLabel("Called").fill("Razorbill");
  await choose(page, "Model", "Osprand Tandem 890, 2022");
  await page.getByLabel("Odometer shows").fill("123 456");
  await press(page, "Enter the bike");
  await tab(page, "The bike");
  await press(page, "All readings");
  await press(page, "Correct");
  await page.getByLabel("It really showed, in km").fill("about twelve");
  await press(page, "Correct it");
  await expect(page.getByRole("alert").first()).toBeVisible();
  await page.getByLabel("It really showed, in km").fill("12 345");
  await press(page, "Correct it");
  await expect(page.getByText("Write a word on why.")).toBeVisible();
  await page.getByLabel("Why").fill("a digit too many");
  await press(page, "Correct it");
  await expect(page.getByText("12 345 km", { exact: true }).last()).toBeVisible();
  await expect(page.getByText("It said 123 456 km, Oda")).toBeVisible();
  await page.getByRole("button", { name: "Close" }).click();
  await expect(page.getByText("12 345 km").first()).toBeVisible();
});
