/** What is known of a bike's past, as its card says it. */
export const RECORDS: Record<string, string> = {
  "from new": "known from new",
  some: "some records",
  none: "no records: everything counts as due now",
};
