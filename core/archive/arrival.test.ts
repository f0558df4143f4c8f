// What becomes one parcel, and what it is called.
import { expect, test } from "@jest/globals";
import { parcelName, parcelsOf } from "./arrival.ts";

const named = (...paths: string[]) =>
  parcelsOf(paths.map((path) => ({ path }))).map(({ name, files }) => [name, files.map((file) => file.path)]);

test("each archive is one parcel, loose fonts together are one and come first", () => {
  expect(named("a.zip", "x.ttf", "b.7z", "y.woff2")).toEqual([
    ["2 loose files", ["x.ttf", "y.woff2"]],
    ["a.zip", ["a.zip"]],
    ["b.7z", ["b.7z"]],
  ]);
});
test("a folder is one parcel with everything in it, and goes by its name", () => {
  expect(named("Furrow/a.ttf", "Furrow/papers/OFL.txt", "Meadow/b.otf", "z.ttf")).toEqual([
    ["z.ttf", ["z.ttf"]],
    ["Furrow", ["Furrow/a.ttf", "Furrow/papers/OFL.txt"]],
    ["b.otf", ["Meadow/b.otf"]],
  ]);
});
test("what is no font and no archive is a parcel too, which will say so", () => {
  expect(named("note.txt")).toEqual([["note.txt", ["note.txt"]]]);
  expect(named()).toEqual([]);
});
test("files that share no folder go by their number", () => {
  expect([parcelName(["a.ttf"]), parcelName(["a/x.ttf", "b/y.ttf"])]).toEqual(["a.ttf", "2 loose files"]);
});
