import { gzipSync } from "node:zlib";
import { signIn } from "./bench";
import { expect, test } from "./server";

/** Not a test: what the first look at the ward costs, for `./ward bench load`. */
test("first load of the ward", async ({ page }) => {
  await signIn(page);
  const times: number[] = [];
  let bytes = 0;
  for (let round = 0; round < 5; round += 1) {
    bytes = 0;
    const client = await page.context().newCDPSession(page);
    await client.send("Network.setCacheDisabled", { cacheDisabled: true });
    const scripts: Promise<void>[] = [];
    const count = (response: import("@playwright/test").Response) => {
      if (response.request().resourceType() !== "script") return;
      scripts.push(
        response.body().then((body) => {
          bytes += gzipSync(body).length;
        }),
      );
    };
    page.on("response", count);
    const begun = Date.now();
    await page.goto("/");
    await expect(page.getByRole("link", { name: "Grey Heron" })).toBeVisible();
    await page.getByRole("button", { name: "Due in 30 days" }).click({ trial: true });
    times.push(Date.now() - begun);
    await Promise.all(scripts);
    page.off("response", count);
  }
  times.sort((a, b) => a - b);
  console.log(
    `first load of the ward in Chromium: ${Math.round(bytes / 1024)} kB of script gzipped, ` +
      `${times[2]} ms to the first row that answers (median of 5, cache off)`,
  );
});
