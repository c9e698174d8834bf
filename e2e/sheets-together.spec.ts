import { nameUnchecked, press, signIn, signOut, tab } from "./bench";
import { expect, test } from "./server";
import type { Page } from "@playwright/test";

async function toDraft(page: Page, model: string): Promise<void> {
  await page.getByRole("link", { name: "Spec sheets" }).click();
  const row = page.getByRole("row").filter({ hasText: model });
  await row.getByRole("link", { name: /approved by/ }).click();
  await page.getByRole("button", { name: /^(Change it in a|Go to) draft/ }).click();
  await expect(page.getByText(/, draft/).first()).toBeVisible();
}

async function write(page: Page, label: string, text: string): Promise<void> {
  await page.getByLabel(label, { exact: true }).fill(text);
  await page.getByLabel(label, { exact: true }).press("Enter");
}

/** An approved sheet is no form: its values are read, and a tap says where one stands. */
async function toBeRead(page: Page): Promise<void> {
  await expect(page.getByLabel("Capacity, with filter")).toHaveCount(0);
  await page.getByRole("button", { name: /^Capacity, with filter/ }).click();
  await expect(page.getByText(/checked by|not checked yet/)).toBeVisible();
}

test("two people at one value see both, and a lead approves once every doubt is answered", async ({
  page,
  browser,
}) => {
  const other = await (await browser.newContext()).newPage();
  await signIn(page, "mira");
  await signIn(other, "oda");
  await toDraft(page, "Scree 300");
  await toDraft(other, "Scree 300");
  const capacity = "Capacity, with filter";

  // Oda begins to type while Mira writes hers down
  await other.getByLabel(capacity).fill("1.28 l");
  await write(page, capacity, "1.3 l");
  await expect(
    page.getByText("Engine, capacity, with filter: was 1.25 l, now 1.3 l"),
  ).toBeVisible();
  await other.getByLabel(capacity).press("Enter");
  const clash = other.getByRole("alert").filter({ hasText: "Mira changed" });
  await expect(clash).toContainText("“1.3 l” meanwhile. Yours is “1.28 l”");
  await press(other, "Keep mine: 1.28 l");
  await expect(other.getByText("was 1.25 l, now 1.28 l")).toBeVisible();
  await expect(page.getByLabel(capacity)).toHaveValue("1.28 l");

  // a slipped unit is said while it is typed, and again before anybody approves
  await other.getByLabel("Torque").first().fill("250 in-lb (21 N·m)");
  await expect(other.getByText("not the same amount")).toBeVisible();
  await write(other, "Torque", "210 N·m").catch(() => undefined);
  await other.getByLabel("Torque").first().fill("210 N·m");
  await expect(other.getByText(/drain plug M12x1.5 usually takes/).first()).toBeVisible();
  await other.getByLabel("Torque").first().press("Enter");
  await expect(other.getByText(/now 210 N·m/)).toBeVisible();
  const approve = other.getByRole("button", { name: "Approve version 2" });
  await expect(approve).toBeDisabled();
  await expect(page.getByRole("button", { name: "Approve version 2" })).toHaveCount(0);
  await other.getByLabel("Torque").first().fill("21 N·m");
  await other.getByLabel("Torque").first().press("Enter");
  // nobody answers for a number of their own: somebody else checks it
  await expect(other.getByText(/^You wrote unchecked numbers/)).toBeVisible();
  await page.reload();
  await press(page, "Check engine//capacity.with filter");
  await press(page, "Check engine/drain plug/torque");
  await expect(approve).toBeEnabled();

  // a doubt can be answered instead: somebody looked, and the manual says so
  await write(other, "Seals last, services", "12");
  await expect(approve).toBeDisabled();
  await press(other, "It really says so");
  await expect(other.getByText("Write a word on why.")).toBeVisible();
  await other.getByLabel(/^The manual says so/).fill("Printed on page 22, asked the maker");
  await press(other, "It really says so");
  await expect(other.getByText("Oda: “Printed on page 22, asked the maker”")).toBeVisible();

  await expect(page.getByText("✓ Mira").first()).toBeVisible();
  await write(page, "First amount", "1 l");
  await expect(other.getByText("first amount: now 1 l")).toBeVisible();
  await approve.click();
  await nameUnchecked(other);
  await expect(other.getByText("version 2, approved by Oda")).toBeVisible();
  await toBeRead(other);
});

test("what cannot be read is not saved, and stays typed", async ({ page }) => {
  await signIn(page, "mira");
  await toDraft(page, "Fen 510");
  const field = page.getByLabel("First amount");
  await field.fill("two litres");
  await expect(page.getByText("is no amount. Type it like")).toBeVisible();
  await field.press("Enter");
  await expect(page.getByRole("alert")).toContainText("is no amount");
  await expect(field).toHaveValue("two litres");
  await field.fill("1,900 l");
  await expect(page.getByText("Is that 1.9 l or 1900 l?")).toBeVisible();
  await write(page, "First amount", "1.9 l");
  await expect(page.getByText("first amount: now 1.9 l")).toBeVisible();

  // a pasted table: mapped, faults named by line, the rest written
  await press(page, "Paste a table");
  await page
    .getByLabel("Rows with tabs")
    .fill("Reservoir,What,Value\nengine,Filter pre-fill,100 ml\nengine,Horn,loud\n");
  await expect(page.getByText("“Horn” is nothing a sheet has a line for")).toBeVisible();
  await press(page, "Write 1 values down, leave 1 out");
  await expect(page.getByText("filter pre-fill: now 100 ml")).toBeVisible();
});

test("a faulty document is refused place by place; a reader changes nothing", async ({ page }) => {
  await signIn(page, "mira");
  await page.getByRole("link", { name: "Spec sheets" }).click();
  const take = (text: string) =>
    page.locator('input[type="file"]').setInputFiles({
      name: "sheet.json",
      mimeType: "application/json",
      buffer: Buffer.from(text),
    });
  await take("{");
  await expect(page.getByText("sheet.json is no JSON document.")).toBeVisible();
  await take(JSON.stringify({ format: "oil-ward/spec-sheet/1", reservoirs: [] }));
  await expect(page.getByText("Faults in this document: 1. Nothing was taken in.")).toBeVisible();
  await expect(page.getByText("'model' is a required property")).toBeVisible();
  await page.keyboard.press("Escape");
  await signOut(page);
  await signIn(page, "piet");
  await page.getByRole("link", { name: "Spec sheets" }).click();
  await expect(page.getByRole("button", { name: "New model" })).toHaveCount(0);
  await page
    .getByRole("link", { name: /approved by/ })
    .first()
    .click();
  await toBeRead(page);
  await expect(page.getByRole("button", { name: "Change it in a draft" })).toHaveCount(0);
});

test("plugs are placed on the map by dragging and by the arrow keys", async ({ page }) => {
  await signIn(page, "mira");
  await toDraft(page, "Dab 125");
  await tab(page, "Bike map");
  const plug = page.getByRole("button", { name: "engine, drain plug" });
  const before = await plug.getAttribute("transform");
  await plug.focus();
  await page.keyboard.press("ArrowLeft");
  await expect(plug).not.toHaveAttribute("transform", before ?? "");
  await expect(page.getByText("Engine, drain plug: moved on the map.")).toBeVisible();
  const box = await plug.boundingBox();
  if (!box) throw new Error("no plug to drag");
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + 120, box.y + 20, { steps: 5 });
  await page.mouse.up();
  await expect.poll(async () => (await plug.boundingBox())?.x ?? 0).toBeGreaterThan(box.x + 60);
});
