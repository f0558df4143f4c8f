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
  ["core/inspect.ts", "../contract/style.ts"],
  ["contract/style.ts", "../core/problem.ts"],
  ["practice/room.ts", "../server/context.ts"],
  ["server/services/plans.ts", "../../ui/data/api.ts"],
  ["ui/data/api.ts", "../../server/context.ts"],
  ["ui/parts/Button.tsx", "../../app/index.tsx"],
  ["app/index.tsx", "../server/context.ts"],
])("%s must not import %s", async (file, from) => {
  expect(await complaints(file, from)).toBe(1);
});
test.each([
  ["core/sfnt/face.ts", "../problem.ts"],
  ["server/services/plans.ts", "../../core/placing/plan.ts"],
  ["ui/data/api.ts", "../../contract/problem.ts"],
  ["app/index.tsx", "../ui/screens/TodayScreen.tsx"],
])("%s may import %s", async (file, from) => {
  expect(await complaints(file, from)).toBe(0);
});
