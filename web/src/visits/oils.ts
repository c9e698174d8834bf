import type { components } from "../api/schema";

type Fluid = components["schemas"]["FluidChoice"];

const doubtful = ({ fit }: Fluid) => fit === "caution" || fit === "refused";

/** What may go in, best first: what fits with what stands there, then the rest with why it does not. */
export function oilOptions(fluids: Fluid[]) {
  return fluids.map((one) => ({
    value: one.name,
    label: `${one.name} · ${doubtful(one) ? `${one.fit}: ${one.why}` : one.stock}`,
  }));
}

/** The one that fits best; nothing where none does. */
export function bestOil(fluids: Fluid[]): string {
  const [best] = fluids;
  return best && !doubtful(best) ? best.name : "";
}
