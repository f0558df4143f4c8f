// The lint rules that keep imports pointing downwards, and out of circles: they must fail the build when one does not.
import { execFileSync } from "node:child_process";
import { expect, test } from "@jest/globals";

const BAD: [string, string][] = [
  ["core/sfnt/face.ts", "../../server/fault.ts"],
  ["core/inspect.ts", "../practice/room.ts"],
  ["core/inspect.ts", "../contract/styles.ts"],
  ["contract/styles.ts", "../server/fault.ts"],
  ["practice/room.ts", "../server/parts.ts"],
  ["server/services/placing/plans.ts", "../../../ui/data/api.ts"],
  ["ui/data/api.ts", "../../server/parts.ts"],
  ["ui/screens/devices/DeviceScreen.tsx", "../../../practice/room.ts"],
  // Inside the server: routes, services, views, store.
  ["server/services/placing/plans.ts", "../../routes/answer.ts"],
  ["server/views/devices.ts", "../services/devices/devices.ts"],
  ["server/store/devices/devices.ts", "../../views/devices.ts"],
  ["ui/parts/Button.tsx", "../../app/index.tsx"],
  ["app/index.tsx", "../server/parts.ts"],
];
const GOOD: [string, string][] = [
  ["core/sfnt/face.ts", "../problem.ts"],
  // Kinds and states are core's; the contract names them, and does not say them again.
  ["contract/styles.ts", "../core/problem.ts"],
  ["server/services/placing/plans.ts", "../../../core/placing/plan.ts"],
  ["ui/data/api.ts", "../../contract/problem.ts"],
  ["ui/screens/devices/DeviceScreen.tsx", "../practice/PracticeFaults.tsx"],
  ["server/services/placing/plans.ts", "../../store/placing/plans.ts"],
  ["app/index.tsx", "../ui/screens/today/TodayScreen.tsx"],
];
/** Imported back, it would make a circle. */
const CIRCLE: [string, string] = ["core/placing/files.ts", "./plan.ts"];

/** The rules a file breaks that imports another, by file and import. */
const broken = new Map<string, string[]>(
  JSON.parse(
    execFileSync(
      process.execPath,
      [
        "--input-type=module",
        "--eval",
        `import { ESLint } from "eslint";
         const eslint = new ESLint({ overrideConfigFile: "eslint.config.mjs" });
         const found = [];
         for (const [filePath, from] of JSON.parse(process.argv[1])) {
           const text = 'import { x } from "' + from + '";\\nexport const y: unknown = x;\\n';
           const [result] = await eslint.lintText(text, { filePath });
           found.push([filePath + " " + from, result.messages.map((one) => one.ruleId)]);
         }
         process.stdout.write(JSON.stringify(found));`,
        JSON.stringify([...BAD, ...GOOD, CIRCLE]),
      ],
      { encoding: "utf8" },
    ),
  ) as [string, string[]][],
);

test.each(BAD)("%s must not import %s", (file, from) => {
  expect(broken.get(`${file} ${from}`)).toContain("import-x/no-restricted-paths");
});
test.each(GOOD)("%s may import %s", (file, from) => {
  expect(broken.get(`${file} ${from}`)).toEqual([]);
});
test("no circle", () => {
  expect(broken.get(CIRCLE.join(" "))).toEqual(["import-x/no-cycle"]);
});
