/** What somebody may read amounts in, as the server takes it. */
export const VOLUMES = ["ml", "l", "fl oz", "qt"];
export const TORQUES = ["N·m", "lbf·ft", "lbf·in", "kgf·m"];
export const OUNCES = [
  { value: "us", label: "US" },
  { value: "imperial", label: "imperial" },
];
