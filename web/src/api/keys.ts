import type { paths } from "./schema";

/** What of the ward is wanted. */
export type WardWanted = NonNullable<paths["/api/ward/"]["get"]["parameters"]["query"]>;

/** Every query's key, built in this one place. A list without its end means all that begin so. */
export const keys = {
  session: ["session"] as const,
  doorway: ["doorway"] as const,
  welcome: (token: string) => ["welcome", token] as const,
  own: ["own"] as const,
  people: ["people"] as const,
  tablets: ["tablets"] as const,
  audit: (wanted: object) => ["audit", wanted] as const,
  wards: ["ward"] as const,
  ward: (wanted: WardWanted) => ["ward", wanted] as const,
  bikes: ["bike"] as const,
  bike: (id: string) => ["bike", id] as const,
  bikeForm: (id: string) => ["bike-form", id] as const,
  readings: (bike: string) => ["readings", bike] as const,
  schools: (bike: string) => ["schools", bike] as const,
  matchesAll: ["matches"] as const,
  matches: (bike: string, reservoir: string) => ["matches", bike, reservoir] as const,
  models: ["models"] as const,
  sheet: (id: number) => ["sheet", id] as const,
  reading: (sheet: number, path: string, written: string) =>
    ["reading", sheet, path, written] as const,
  table: (sheet: number, asked: object) => ["table", sheet, asked] as const,
  plans: ["plan"] as const,
  plan: (bike: string, asked: object) => ["plan", bike, asked] as const,
  calendar: ["calendar"] as const,
  booked: (visit: string) => ["booked", visit] as const,
  offers: (bike: string) => ["bike", bike, "offers"] as const,
  visit: (id: string) => ["visit", id] as const,
  hands: ["hands"] as const,
  plugSoFar: (visit: string, step: string, data: string) =>
    ["plug-so-far", visit, step, data] as const,
  wear: (bike: string, reservoir: string) => ["bike", bike, "wear", reservoir] as const,
  ledgerOf: (wanted: object) => ["findings", wanted] as const,
  samples: ["lab", "samples"] as const,
  labFile: (file: string) => ["lab", "file", file] as const,
  lab: (bike: string, reservoir: string) => ["bike", bike, "lab", reservoir] as const,
  compared: (kind: string) => ["findings", "compared", kind] as const,
  findings: (bike: string, reservoir: string) => ["bike", bike, "findings", reservoir] as const,
  finish: (visit: string) => ["finish", visit] as const,
  shelf: ["shelf"] as const,
  stock: ["stock"] as const,
  ledgers: ["stock", "ledger"] as const,
  ledger: (fluid: number | undefined) => ["stock", "ledger", fluid ?? "all"] as const,
  blend: (asked: object) => ["blend", asked] as const,
  settings: ["settings"] as const,
  quickSum: (text: string) => ["quick-sum", text] as const,
  amount: (kind: string, unit: string, text: string) => ["amount", kind, unit, text] as const,
};
