import { press, signIn, signOut } from "./bench";
import { expect, test } from "./server";

test("a reader looks but does not touch", async ({ page }) => {
  await signIn(page, "piet");
  await page.getByRole("link", { name: "Lamplighter" }).click();
  await expect(page.getByRole("heading", { name: "Lamplighter" })).toBeVisible();
  await expect(page.getByRole("button", { name: "Service the engine" })).toHaveCount(0);
});

test("a bike is found by anything typed", async ({ page }) => {
  await signIn(page, "piet");
  await page.getByLabel("Find a bike").fill("boxer ferr");
  await expect(page.getByRole("link", { name: "Goat" })).toHaveCount(0);
  await expect(page.getByRole("link", { name: "Ferry Bell" })).toBeVisible();
  await page.getByLabel("Find a bike").fill("nothing like it");
  await expect(page.getByText("No bike fits that.")).toBeVisible();
});

test("a wrong password is said, and signing out closes the door", async ({ page }) => {
  await page.goto("/bikes/0");
  await page.getByLabel("Name").fill("mira");
  await page.getByLabel("Password").fill("wrong");
  await press(page, "Sign in");
  await expect(page.getByText("Name and password do not fit together")).toBeVisible();
  await page.getByLabel("Password").fill("harbour-mira");
  await press(page, "Sign in");
  await expect(page.getByText("There is nothing here under that name.")).toBeVisible();
  await signOut(page);
  await expect(page.getByRole("button", { name: "Sign in" })).toBeVisible();
});

test("the ward says when it is empty, and when the server is silent", async ({ page }) => {
  await page.route("**/api/ward/**", (route) =>
    route.fulfill({
      json: {
        count: 0,
        page: 1,
        pages: 1,
        due: 0,
        fleet: 0,
        months: [],
        uses: [],
        fluids: [],
        now: new Date().toISOString(),
        rolling: { ran_at: "", late: false, behind: 0 },
        columns: [],
        bikes: [],
        first_steps: [
          { step: "people", done: true },
          { step: "bike", done: false },
        ],
      },
    }),
  );
  await page.goto("/");
  await page.getByLabel("Name").fill("mira");
  await page.getByLabel("Password").fill("harbour-mira");
  await press(page, "Sign in");
  const first = page.getByRole("region", { name: "First steps" });
  await expect(first.getByRole("listitem").first()).toContainText("Done.");
  await expect(first.getByRole("link", { name: "Enter the first bike" })).toHaveAttribute(
    "href",
    "/bikes/new",
  );
  await page.unroute("**/api/ward/**");
  await page.route("**/api/ward/**", (route) => route.abort());
  await page.reload();
  await expect(page.getByText("The server does not answer.")).toBeVisible();
  await page.unroute("**/api/ward/**");
  await press(page, "Try again");
  await expect(page.getByRole("link", { name: "Goat" })).toBeVisible();
});

test("a page that cannot be fetched offers to load again, and the frame stays", async ({
  page,
}) => {
  await signIn(page, "piet");
  await page.route("**/assets/Shelf*", (route) => route.abort());
  await page.getByRole("link", { name: "Shelf" }).click();
  await expect(page.getByText("This page could not be fetched.")).toBeVisible();
  // the way elsewhere stays open
  await page.getByRole("link", { name: "Calendar" }).click();
  await expect(page.getByRole("heading", { name: "Calendar" })).toBeVisible();
  await page.getByRole("link", { name: "Shelf" }).click();
  await expect(page.getByText("This page could not be fetched.")).toBeVisible();
  await page.unroute("**/assets/Shelf*");
  await press(page, "Load it again");
  await expect(page.getByRole("heading", { name: "Shelf", exact: true })).toBeVisible();
});

test("on a phone the ward is a list of what needs doing, and the bike can be opened", async ({
  page,
}) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await signIn(page, "piet");
  const todo = page.getByRole("list", { name: "What needs doing" });
  const lamp = todo.getByRole("listitem").filter({ hasText: "Lamplighter" });
  await expect(lamp).toContainText("no record: do it now");
  await expect(todo.getByText("gearbox: investigate")).toBeVisible();
  await expect(page.getByRole("table")).toHaveCount(0);
  await page.getByRole("button", { name: "Piet, reader" }).click();
  await expect(page.getByRole("button", { name: "Sign out" })).toBeVisible();
  await page.keyboard.press("Escape");
  await lamp.getByRole("link", { name: "Lamplighter" }).click();
  await expect(page.getByRole("heading", { name: "Lamplighter" })).toBeVisible();
});
