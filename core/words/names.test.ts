// Names and texts that go into files and markup.
import { fileStem, plainFileName } from "./file-names.ts";
import { escaped } from "./markup.ts";

test.each([
  ["Trellis Fair", "Trellis-Fair"],
  ["  Höhen & Tiefen / 2 ", "Höhen-Tiefen-2"],
  ["../../etc", "etc"],
  ["***", "Fonts"],
  ["日本 明朝", "日本-明朝"],
])("the stem of %p is %p", (name, stem) => {
  expect(fileStem(name)).toBe(stem);
});

test("a long name is cut", () => {
  expect(fileStem("x".repeat(500)).length).toBeLessThanOrEqual(120);
  expect(plainFileName("x".repeat(500), "font").length).toBeLessThanOrEqual(120);
});

test.each([
  ["C:\\fonts\\My Font.ttf", "My Font.ttf"],
  ["/a/b/..hidden.otf", "hidden.otf"],
  ["a/", "font"],
  ["a\u0000b<c>.zip", "a-b-c-.zip"],
])("a path %p gives the file name %p", (path, name) => {
  expect(plainFileName(path, "font")).toBe(name);
});

test("every sign that means something in markup is written as text", () => {
  expect(escaped(`<a href="x">it's & that</a>`)).toBe("&lt;a href=&quot;x&quot;&gt;it&#39;s &amp; that&lt;/a&gt;");
});
