import js from "@eslint/js";
import hooks from "eslint-plugin-react-hooks";
import tseslint from "typescript-eslint";

export default tseslint.config(
  { ignores: ["**/dist/**", "**/schema.d.ts", "**/test-results/**", ".venv/**"] },
  js.configs.recommended,
  ...tseslint.configs.strict,
  { files: ["web/src/**/*.{ts,tsx}"], ...hooks.configs.flat.recommended },
  {
    files: ["**/*.{ts,tsx}"],
    rules: {
      complexity: ["error", 12],
      "max-lines": ["error", 450],
      "@typescript-eslint/no-non-null-assertion": "error",
    },
  },
);
