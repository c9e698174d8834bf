import { readFileSync } from "node:fs";
import { choose, chosen, press, signIn, listsClosed } from "./bench";
import { expect, test } from "./server";
import type { Page } from "@playwright/test";

interface Value {
  written: string;
  document: string;
  page: string;
}
interface Part {
  key: string;
  values: Record<string, Value>;
}
interface Reservoir extends Part {
  parts: Part[];
}
interface Document {
  model: { make: string; name: string; year: number; layout: string; displacement_cc: number };
  reservoirs: Reservoir[];
}

const MAPPED = new Set(["spot", "role"]);

function manual(name: string): Document {
  return JSON.parse(readFileSync(`../server/demo/sheets/${name}.json`, "utf8")) as Document;
}

/** Where the keyboard stands: the path of a value, or the name of a list to add from. */
function standing(page: Page): Promise<string> {
  return page.evaluate(
    () => document.activeElement?.closest("[data-cell]")?.getAttribute("data-cell") ?? "",
  );
}

function holds(page: Page): Promise<string> {
  return page.evaluate(() => {
    const field = document.activeElement as HTMLInputElement;
    const list = field.closest(".ant-select")?.querySelector(".ant-select-content");
    return list ? (list.textContent ?? "") : field.value;
  });
}

async function standsOn(page: Page, start: string): Promise<void> {
  await expect.poll(() => standing(page)).toMatch(new RegExp(`^${start}`));
}

/** Types every value of a part, Enter after Enter, until the part's fields are behind. */
async function typeThrough(page: Page, values: Record<string, Value>, prefix: string) {
  for (let at = await standing(page); at.startsWith(prefix); at = await standing(page)) {
    const value = values[at.slice(prefix.length)];
    // what already stands there, like the kind, is passed over
    if (value && value.written !== (await holds(page))) await page.keyboard.type(value.written);
    await page.keyboard.press("Enter");
    // how it is filled decides which lines the sheet has
    if (at.endsWith("//fill rule")) {
      await expect(page.getByText("what was typed is kept")).toBeVisible();
    }
  }
}

/** Finds what to add by typing; taking it adds it. */
async function pick(page: Page, words: string): Promise<void> {
  await page.keyboard.type(words);
  await page.keyboard.press("Enter");
}

/** A whole reservoir from the manual page, by keyboard alone; its key on the sheet comes back. */
async function enter(page: Page, reservoir: Reservoir): Promise<string> {
  const kind = reservoir.values["kind"]?.written ?? "";
  await page.getByLabel("Add a reservoir").focus();
  await pick(page, kind);
  await expect.poll(() => standing(page)).toMatch(new RegExp(`^${kind}( \\d)?//`));
  const key = (await standing(page)).split("//")[0] ?? "";
  await page.getByLabel("page", { exact: true }).focus();
  await page.keyboard.press("Control+a");
  await page.keyboard.type(reservoir.values["fill rule"]?.page ?? "");
  await page.locator(`[data-cell="${key}//kind"] input`).focus();
  await typeThrough(page, reservoir.values, `${key}//`);
  for (const part of reservoir.parts) {
    await standsOn(page, "Add to the");
    await pick(page, part.values["role"]?.written ?? part.key);
    await standsOn(page, `${key}/`);
    const prefix = (await standing(page)).split("/").slice(0, 2).join("/");
    await typeThrough(page, part.values, `${prefix}/`);
  }
  return key;
}

async function newModel(page: Page, wanted: Document["model"], name: string): Promise<void> {
  await page.getByRole("link", { name: "Spec sheets" }).click();
  await press(page, "New model");
  const next = async (text: string) => {
    await page.keyboard.type(text);
    await page.keyboard.press("Tab");
  };
  await expect(page.getByLabel("Make")).toBeFocused();
  await next(wanted.make);
  await next(name);
  await next(String(wanted.year));
  await next(String(wanted.displacement_cc));
  await page.keyboard.type(wanted.layout);
  await page.keyboard.press("Enter");
  await expect(chosen(page, "Layout")).toContainText(wanted.layout);
  await listsClosed(page);
  await page.keyboard.press("Tab");
  await page.keyboard.press("Enter");
  await expect(page.getByText("What holds oil on it?")).toBeVisible();
}

async function exported(page: Page): Promise<Document> {
  const href = await page.getByRole("link", { name: "Export as JSON" }).getAttribute("href");
  return (await (await page.request.get(href ?? "")).json()) as Document;
}

async function journey(page: Page, file: string, name: string): Promise<void> {
  const wanted = manual(file);
  await signIn(page, "oda");
  await newModel(page, wanted.model, name);
  await page.getByLabel("Typing from").fill("Workshop manual");
  const keys: string[] = [];
  for (const reservoir of wanted.reservoirs) keys.push(await enter(page, reservoir));
  await expect(page.getByText("what was typed is kept")).toBeVisible({ timeout: 60_000 });

  // every value the manual gives stands on the sheet as it was written
  const out = await exported(page);
  wanted.reservoirs.forEach((reservoir, index) => {
    const got = out.reservoirs.find((one) => one.key === keys[index]);
    const said = (values: Record<string, Value>) =>
      Object.entries(values)
        .filter(([field]) => !MAPPED.has(field))
        .map(([field, value]) => `${field}: ${value.written}`)
        .sort();
    expect(said(got?.values ?? {})).toEqual(said(reservoir.values));
    for (const part of reservoir.parts) {
      const mine = got?.parts.find(
        (one) => one.values["place"]?.written === part.values["place"]?.written,
      );
      expect(said(mine?.values ?? {})).toEqual(said(part.values));
    }
  });

  // out, taken out, in again: identical
  await page.getByRole("link", { name: "Spec sheets" }).first().click();
  await press(page, `Take ${name} out`);
  await expect(page.getByRole("row").filter({ hasText: name })).toHaveCount(0);
  await page.locator('input[type="file"]').setInputFiles({
    name: "sheet.json",
    mimeType: "application/json",
    buffer: Buffer.from(JSON.stringify(out)),
  });
  await expect(page.getByRole("heading", { name: new RegExp(name) })).toBeVisible();
  expect(await exported(page)).toEqual(out);
}

test("a commuter's whole sheet, typed from its manual by keyboard", async ({ page }) => {
  await journey(page, "dab-125", "Dab 126");
});

// the same on longer sheets: it takes minutes
test("a three-drain V-twin's whole sheet, typed from its manual by keyboard @wide", async ({
  page,
}) => {
  await journey(page, "colossine-1640", "Colossine 1650");
});

test("a shaft-drive boxer's whole sheet, typed from its manual by keyboard @wide", async ({
  page,
}) => {
  await journey(page, "meridan-1130", "Meridan 1140");
});

test("a line that leaves the sheet under the hands passes the keyboard on", async ({ page }) => {
  await signIn(page, "oda");
  const made = {
    make: "Lumeo",
    name: "",
    year: 2021,
    layout: "single, shaft",
    displacement_cc: 300,
  };
  await newModel(page, made, "Dab 300");
  await page.getByLabel("Add a reservoir").focus();
  await pick(page, "final drive");
  await standsOn(page, "final drive//");
  // the answer that takes the level's lines away comes while one of them is being typed
  await page.route("**/cells/", async (route) => {
    await new Promise((resolve) => setTimeout(resolve, 1500));
    await route.continue();
  });
  await choose(page, "Filled by", "exact");
  await page.locator('[data-cell="final drive//level.run"]').focus();
  await expect(page.locator('[data-cell="final drive//level.run"]')).toHaveCount(0);
  await standsOn(page, "final drive//");
});
