import type { Page, Route } from "@playwright/test";
import { comesIn, inFor, signIn } from "./bench";
import { expect, test } from "./server";

const problem = (code: string, detail: string) => ({
  status: 503,
  contentType: "application/problem+json",
  headers: { "Retry-After": "1" },
  json: { type: `urn:oilward:${code}`, title: "", status: 503, detail, code, errors: [] },
});

// what is killed, dropped or full, as a tablet meets it, and what the bench says of it
const MATTERS: [string, (route: Route) => Promise<void>, RegExp][] = [
  ["the application or nginx is gone", (route) => route.abort("connectionrefused"), /trying again/],
  ["the connection is dropped", (route) => route.abort("connectionreset"), /trying again/],
  [
    "nginx stands and the application does not",
    (route) => route.fulfill(problem("door.away", "Oil Ward starts anew. What you typed is kept.")),
    /trying again\. Oil Ward starts anew/,
  ],
  [
    "the database is gone",
    (route) => route.fulfill(problem("door.away", "The database is not there just now.")),
    /trying again\. The database is not there just now/,
  ],
  [
    "the disk is full",
    (route) => route.fulfill(problem("door.full", "The disk of the server is full.")),
    /trying again\. The disk of the server is full/,
  ],
];

async function writes(page: Page): Promise<void> {
  const button = (name: string) => page.getByRole("button", { name, exact: true });
  await button("I take this step").or(button("Give it up")).first().click();
}

test("whatever is the matter with the server, the bench says what, keeps it, and sends it", async ({
  page,
}) => {
  await signIn(page);
  const bike = await comesIn(page, "Bittern", "Brackwell Colossine 1640, 2018");
  await inFor(page, bike, "primary");
  const unsent = page.getByText(/^Not sent yet: 1 entry/).first();
  for (const [matter, answer, said] of MATTERS) {
    await test.step(matter, async () => {
      await page.route("**/entries/", answer);
      await writes(page);
      await expect(unsent).toHaveText(said);
      await page.unroute("**/entries/");
      await expect(unsent).toHaveCount(0);
    });
  }
  // each is there once: taken and given up in turn, five times
  await expect(page.getByRole("button", { name: "Give it up", exact: true })).toBeVisible();
});
