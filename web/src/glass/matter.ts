import type { Shape } from "../api/client";

/** The tint each matter is drawn in. */
export const MATTER: Record<Shape["Matter"], string> = {
  steel: "#4a5153",
  aluminium: "#b9c2c4",
  brass: "#c79a2b",
  bronze: "#9c5a2c",
  friction: "#3a2f28",
  sealant: "#a8433a",
  rubber: "#1d1d1d",
  unknown: "#77706a",
};
