import { expect, type Page } from "@playwright/test";

// a connection at rest that the server closes at the moment it is used: a browser asks again too
const again = { maxRetries: 2 };

/** What the page asks and says of the server, without its screen. */
export async function asked<Answer>(page: Page, path: string): Promise<Answer> {
  const answer = await page.request.get(path, again);
  expect(answer.ok(), await answer.text()).toBe(true);
  return (await answer.json()) as Answer;
}

/** Sends what a screen would send, by whoever is signed in on the page. */
export async function said<Answer>(
  page: Page,
  path: string,
  data: object,
  method: "post" | "put" = "post",
): Promise<Answer> {
  const cookies = await page.context().cookies();
  const token = cookies.find((cookie) => cookie.name.endsWith("csrftoken"))?.value ?? "";
  const answer = await page.request[method](path, {
    data,
    headers: { "X-CSRFToken": token },
    ...again,
  });
  expect(answer.ok(), `${JSON.stringify(data)}: ${await answer.text()}`).toBe(true);
  return (await answer.json()) as Answer;
}
