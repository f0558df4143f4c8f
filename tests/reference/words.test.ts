// Comments keep to the words of docs/words.md.
import { execFileSync } from "node:child_process";
import { readFileSync } from "node:fs";
import { expect, test } from "@jest/globals";
import ts from "typescript";

const rows = readFileSync("docs/words.md", "utf8")
  .split("\n")
  .flatMap((line) => [...line.matchAll(/^\| ([^|]+) \| ([^|]+) \|[^|]*\|$/g)])
  .map(([, write, not]) => ({ write: write!.trim(), not: not!.trim() }))
  .filter(({ write }) => write !== "write" && !write.startsWith("-"));

/** Comments of a file with their lines. What is quoted in them is left out. */
function commentsOf(path: string, text: string): { line: number; words: string }[] {
  const source = ts.createSourceFile(path, text, ts.ScriptTarget.Latest, true, path.endsWith("x") ? ts.ScriptKind.TSX : ts.ScriptKind.TS);
  const found = new Map<number, string>();
  const visit = (node: ts.Node): void => {
    if (node.kind !== ts.SyntaxKind.JsxText)
      for (const { pos, end } of [
        ...(ts.getLeadingCommentRanges(text, node.pos) ?? []),
        ...(ts.getTrailingCommentRanges(text, node.end) ?? []),
      ])
        found.set(pos, text.slice(pos, end).replace(/"[^"\n]*"|“[^”]*”|`[^`]*`|https?:\S+/g, ""));
    ts.forEachChild(node, visit);
  };
  visit(source);
  return [...found].map(([at, words]) => ({ line: source.getLineAndCharacterOfPosition(at).line + 1, words }));
}
const faultsIn = (path: string, text: string): string[] =>
  commentsOf(path, text).flatMap(({ line, words }) =>
    rows
      .filter(({ not }) => new RegExp(`\\b${not}\\b`, "i").test(words))
      .map(({ write, not }) => `${path}:${line} says “${not}”; write “${write}”`),
  );

test("a word of the list is found in comments, and not in code or quotations", () => {
  expect(rows.length).toBeGreaterThan(10);
  expect(faultsIn("a.ts", 'const color = 1; // The color of "license".\n')).toEqual(["a.ts:1 says “color”; write “colour”"]);
});

test("comments keep to the list", () => {
  const files = execFileSync("git", ["ls-files", "*.ts", "*.tsx"], { encoding: "utf8" }).trim().split("\n");
  expect(files.length).toBeGreaterThan(400);
  expect(files.flatMap((path) => faultsIn(path, readFileSync(path, "utf8")))).toEqual([]);
});
