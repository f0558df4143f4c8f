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

/** Attributes that are read or heard. */
const SAID = "/^(label|title|note|hint|placeholder|what|none|unit|said|aria-label|aria-valuetext)$/";
const IN_SENTENCES = "What is read or heard stands in ui/sentences, where all of a screen is read together.";

/** Every sentence of a screen stands in one place. */
const sentences = {
  files: ["ui/{screens,parts,web}/**/*.tsx", "app/**/*.tsx"],
  ignores: ["**/*.test.tsx"],
  rules: {
    "no-restricted-syntax": [
      "error",
      { selector: "JSXText[value=/[A-Za-z]{2}/]", message: IN_SENTENCES },
      { selector: `JSXAttribute[name.name=${SAID}] > Literal[value=/[A-Za-z]{2}/]`, message: IN_SENTENCES },
      { selector: `JSXAttribute[name.name=${SAID}] TemplateElement[value.raw=/[A-Za-z]{2}/]`, message: IN_SENTENCES },
      { selector: "JSXElement > JSXExpressionContainer > Literal[value=/[A-Za-z]{2}/]", message: IN_SENTENCES },
      {
        selector: "JSXElement > JSXExpressionContainer > TemplateLiteral > TemplateElement[value.raw=/[A-Za-z]{2}/]",
        message: IN_SENTENCES,
      },
      { selector: "JSXElement > JSXExpressionContainer > ConditionalExpression > Literal[value=/[A-Za-z]{2}/]", message: IN_SENTENCES },
    ],
  },
};

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
  sentences,
);
