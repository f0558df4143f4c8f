// Two worlds: core, server, practice and the command line run as native ES modules on Node.js; components under jest-expo.
const node = (displayName, testMatch) => ({
  displayName,
  testEnvironment: "node",
  testMatch,
  extensionsToTreatAsEsm: [".ts"],
  transform: { "\\.ts$": "<rootDir>/scripts/jest-esbuild.cjs", "\\.sql$": "<rootDir>/scripts/jest-esbuild.cjs" },
});

module.exports = {
  projects: [
    node("unit", ["<rootDir>/{core,server,practice,contract,cli,demo,tests/api}/**/*.test.ts"]),
    node("reference", ["<rootDir>/tests/reference/**/*.test.ts"]),
    node("fuzz", ["<rootDir>/tests/fuzz/**/*.test.ts"]),
    node("hostile", ["<rootDir>/tests/hostile/**/*.test.ts"]),
    { ...node("e2e", ["<rootDir>/tests/e2e/**/*.test.ts"]) },
    {
      displayName: "ui",
      preset: "jest-expo",
      // Packages that ship as modules Node.js cannot require are compiled too.
      transformIgnorePatterns: ["/node_modules/(?!((jest-)?react-native|@react-native|expo|@expo|lucide-react-native|nativewind))"],
      testMatch: ["<rootDir>/ui/**/*.test.tsx"],
    },
  ],
};
