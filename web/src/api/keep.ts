import type { QueryClient, QueryKey } from "@tanstack/react-query";

/** What a write was answered with is what stands now: what was asked for before it, and is still on
 * its way, is older and not heard any more. */
export async function keep(client: QueryClient, queryKey: QueryKey, answer: unknown) {
  await client.cancelQueries({ queryKey, exact: true });
  // eslint-disable-next-line no-restricted-syntax -- the one place
  client.setQueryData(queryKey, answer);
}
