// Lint: TypeScript's own recommendations, hooks' rules, and the layers: imports point downwards only, and never in a circle.
import importX from "eslint-plugin-import-x";
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

/** Floors of the server, the uppermost first: each knows those below it, and none above. */
const FLOORS = ["routes", "services", "views", "store"];

const above = Object.entries(LAYERS).map(([layer, below]) => ({
  target: `./${layer}`,
  from: Object.keys(LAYERS).filter((other) => other !== layer && !below.includes(other)),
  message: `${layer}/ must not import this: imports point downwards only.`,
}));
const aboveFloors = FLOORS.flatMap((floor, i) =>
  i === 0
    ? []
    : [
        {
          target: `./server/${floor}`,
          from: FLOORS.slice(0, i).map((other) => `server/${other}`),
          message: `server/${floor}/ knows nothing of the floors above it.`,
        },
      ],
);

/** Imports point downwards only, and never in a circle. */
const layers = {
  files: ["**/*.{ts,tsx}"],
  // Tests may make fonts with the demo's tools.
  ignores: ["**/*.test.{ts,tsx}", "tests/**"],
  plugins: { "import-x": importX },
  settings: {
    "import-x/resolver-next": [importX.createNodeResolver({ extensions: [".ts", ".tsx", ".js", ".json"] })],
    "import-x/parsers": { "@typescript-eslint/parser": [".ts", ".tsx"] },
  },
  rules: {
    "import-x/no-restricted-paths": [
      "error",
      { zones: [...above, ...aboveFloors].map((zone) => ({ ...zone, from: zone.from.map((path) => `./${path}`) })) },
    ],
    "import-x/no-cycle": ["error", { ignoreExternal: true }],
  },
};

const NAMED = "Write what it holds where it stands; a literal that is spread at once only saves lines.";
/** Literals are written out, one name a line where they are long. */
const WRITTEN_OUT = [
  { selector: "SpreadElement > ObjectExpression", message: NAMED },
  { selector: "SpreadElement > ArrayExpression", message: NAMED },
  { selector: "JSXSpreadAttribute > ObjectExpression", message: NAMED },
];

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
      ...WRITTEN_OUT,
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
      "no-restricted-syntax": ["error", ...WRITTEN_OUT],
    },
  },
  // Assets are required, configuration files are CommonJS.
  { files: ["ui/theme/fonts.ts", "*.js", "**/*.cjs", "ui/theme/palette.js"], rules: { "@typescript-eslint/no-require-imports": "off" } },
  layers,
  sentences,
);
