// The limits: real fonts stay far below them, and the page that lists them lists what stands in the code.
import { readFileSync } from "node:fs";
import { afterEach, expect, jest, test } from "@jest/globals";
import { inspectFont } from "../../core/inspect.ts";
import { ReadingBudget } from "../../core/sfnt/view.ts";
import { corpusFonts } from "../load/corpus.ts";

afterEach(() => void jest.restoreAllMocks());

test("no font of the installed packages takes a twentieth of the work it may", () => {
  let spent = 0;
  const spend = ReadingBudget.prototype.spend;
  jest.spyOn(ReadingBudget.prototype, "spend").mockImplementation(function (this: ReadingBudget, reads: number) {
    spent += reads;
    spend.call(this, reads);
  });
  for (const path of corpusFonts()) {
    spent = 0;
    const bytes = readFileSync(path);
    expect([path, inspectFont(bytes, path).ok]).toEqual([path, true]);
    expect([path, spent > 0, spent < (40_000_000 + 4 * bytes.length) / 20]).toEqual([path, true, true]);
  }
}, 120_000);

test("docs/security.md lists each limit as it stands in the code", () => {
  const rows = readFileSync("docs/security.md", "utf8")
    .split("\n")
    .flatMap((line) => [...line.matchAll(/^\| .* \| `([^`]+)` \| `([^`]+)` `([^`]+)` \|$/g)]);
  expect(rows.length).toBeGreaterThan(20);
  for (const [, value, file, name] of rows) {
    const literally = (text: string) => text.replace(/[.*+?^${}()|[\]\\]/g, "\\$&");
    const stands = new RegExp(`${literally(name!)}\\s*${literally(value!)}[;,\\s]`);
    expect([file, name, value, stands.test(readFileSync(file!, "utf8"))]).toEqual([file, name, value, true]);
  }
});
