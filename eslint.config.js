import js from "@eslint/js";
import hooks from "eslint-plugin-react-hooks";
import tseslint from "typescript-eslint";

// each room reaches only downwards: the arrows of the server, with what every screen is made of below
const ROOMS = [
  ["api"],
  ["ui"],
  ["glass"],
  ["workshop"],
  ["shelf", "garage"],
  ["findings"],
  ["visits"],
  ["planning"],
];

const arrows = ROOMS.flatMap((level, height) =>
  level.map((room) => {
    const beside = level.filter((other) => other !== room);
    const above = [...beside, ...ROOMS.slice(height + 1).flat()];
    const group = [...above.map((other) => `**/${other}/**`), "**/App", "**/WorkshopPage"];
    const message = `${room} reaches only downwards.`;
    return {
      files: [`web/src/${room}/**`],
      rules: { "no-restricted-imports": ["error", { patterns: [{ group, message }] }] },
    };
  }),
);

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
  {
    // a component that grows is split by what it shows
    files: ["web/src/**/*.{ts,tsx}"],
    rules: {
      "no-restricted-syntax": [
        "error",
        {
          selector: "JSXOpeningElement[name.name='select']",
          message: "Use Choice: lists open and are searched alike everywhere.",
        },
        {
          selector: "JSXAttribute[name.name='type'][value.value='date']",
          message: "Use Day: days are typed and said one way.",
        },
        {
          selector: "MemberExpression[property.name='setQueryData']",
          message: "Use keep: an older answer on its way must not overwrite it.",
        },
      ],
      "max-lines-per-function": ["error", { max: 60, skipBlankLines: true, skipComments: true }],
    },
  },
  ...arrows,
);
