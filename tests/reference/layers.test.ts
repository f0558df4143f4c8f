// The lint rule that keeps imports pointing downwards: it must fail the build when one points up.
import { ESLint } from "eslint";
import { expect, test } from "@jest/globals";

const eslint = new ESLint({ overrideConfigFile: "eslint.config.mjs" });
const complaints = async (file: string, from: string): Promise<number> => {
  const [result] = await eslint.lintText(`import { x } from "${from}";\nexport const y: number = x;\n`, { filePath: file });
  return result!.messages.filter((message) => message.ruleId === "no-restricted-imports").length;
};

test.each([
  ["core/sfnt/face.ts", "../../server/fault.ts"],
  ["core/inspect.ts", "../practice/room.ts"],
  ["core/inspect.ts", "../contract/styles.ts"],
  ["contract/styles.ts", "../server/fault.ts"],
  ["practice/room.ts", "../server/parts.ts"],
  ["server/services/placing/plans.ts", "../../ui/data/api.ts"],
  ["ui/data/api.ts", "../../server/parts.ts"],
  ["ui/parts/Button.tsx", "../../app/index.tsx"],
  ["app/index.tsx", "../server/parts.ts"],
])("%s must not import %s", async (file, from) => {
  expect(await complaints(file, from)).toBe(1);
});
test.each([
  ["core/sfnt/face.ts", "../problem.ts"],
  // Kinds and states are core's; the contract names them, and does not say them again.
  ["contract/styles.ts", "../core/problem.ts"],
  ["server/services/placing/plans.ts", "../../core/placing/plan.ts"],
  ["ui/data/api.ts", "../../contract/problem.ts"],
  ["app/index.tsx", "../ui/screens/today/TodayScreen.tsx"],
])("%s may import %s", async (file, from) => {
  expect(await complaints(file, from)).toBe(0);
});
