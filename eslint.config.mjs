// Lint: TypeScript's own recommendations, hooks' rules, and the layers: imports point downwards only.
import reactHooks from "eslint-plugin-react-hooks";
import tseslint from "typescript-eslint";

/** What each layer may import besides itself. Everything else among the layers is above it. */
export const LAYERS = {
  core: [],
  contract: ["core"],
  practice: ["contract", "core"],
  server: ["practice", "contract", "core"],
  cli: ["server", "contract", "core"],
  demo: ["contract", "core"],
  ui: ["contract", "core"],
  app: ["ui", "contract"],
};

const layerRules = Object.entries(LAYERS).map(([layer, below]) => ({
  files: [`${layer}/**/*.{ts,tsx}`],
  // Tests may make fonts with the demo's tools.
  ignores: ["**/*.test.{ts,tsx}"],
  rules: {
    "no-restricted-imports": [
      "error",
      {
        patterns: Object.keys(LAYERS)
          .filter((other) => other !== layer && !below.includes(other))
          .map((other) => ({
            group: [`**/../${other}/**`, `../${other}/**`],
            message: `${layer}/ must not import ${other}/: imports point downwards only.`,
          })),
      },
    ],
  },
}));

export default tseslint.config(
  { ignores: ["build/**", "node_modules/**", ".expo/**"] },
  ...tseslint.configs.recommended,
  {
    files: ["**/*.{ts,tsx}"],
    plugins: { "react-hooks": reactHooks },
    rules: {
      "react-hooks/rules-of-hooks": "error",
      "react-hooks/exhaustive-deps": "error",
      "@typescript-eslint/no-unused-vars": ["error", { varsIgnorePattern: "^_", argsIgnorePattern: "^_", ignoreRestSiblings: true }],
      eqeqeq: ["error", "always", { null: "ignore" }],
      "no-console": "error",
    },
  },
  // Assets are required, configuration files are CommonJS.
  { files: ["ui/theme/fonts.ts", "*.js", "**/*.cjs", "ui/theme/palette.js"], rules: { "@typescript-eslint/no-require-imports": "off" } },
  ...layerRules,
);
