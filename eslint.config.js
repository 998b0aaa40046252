// Lint with types; those of other packages are what the compiler has written last (tsconfig.base.json), so it goes first. The core's bans
// (clock, chance, input and output) are rules here and compile errors through its tsconfig.
import reactHooks from "eslint-plugin-react-hooks";
import tseslint from "typescript-eslint";

const bannedInCore = [
  {
    selector: "MemberExpression[object.name='Date'][property.name='now']",
    message: "The core has no clock: take the time as an argument.",
  },
  { selector: "NewExpression[callee.name='Date'][arguments.length=0]", message: "The core has no clock: take the time as an argument." },
  { selector: "MemberExpression[object.name='Math'][property.name='random']", message: "The core has no global chance: take a Random." },
];

export default tseslint.config(
  // AssemblyScript reads like TypeScript, and is not: its compiler checks it.
  {
    ignores: [
      "**/dist",
      "packages/core/simd",
      "**/fixtures/bad",
      ".cache",
      ".data",
      "test-results",
      "**/*.mjs",
      "**/*.cjs",
      "eslint.config.js",
    ],
  },
  ...tseslint.configs.recommendedTypeChecked,
  { languageOptions: { parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname } } },
  {
    rules: {
      "@typescript-eslint/no-unused-vars": ["error", { argsIgnorePattern: "^_", varsIgnorePattern: "^_" }],
      "@typescript-eslint/consistent-type-imports": "error",
      "@typescript-eslint/switch-exhaustiveness-check": "error",
      // A job, a route or a stub is async by its interface, whether or not it has to wait today.
      "@typescript-eslint/require-await": "off",
      "no-warning-comments": ["error", { terms: ["todo", "fixme", "xxx"] }],
    },
  },
  { files: ["packages/core/src/**/*.ts"], rules: { "no-restricted-syntax": ["error", ...bannedInCore] } },
  { files: ["apps/web/src/**/*.{ts,tsx}"], plugins: { "react-hooks": reactHooks }, rules: { ...reactHooks.configs.recommended.rules } },
);
