/** Whose ounces and quarts somebody means. */
export const OUNCES = [
  { value: "us", label: "US" },
  { value: "imperial", label: "imperial" },
];
