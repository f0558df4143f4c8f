import type { ParcelDetail, ParcelStyle } from "../../../contract/parcels.ts";
import { rowsOf } from "./ParcelRows.tsx";

const style = (name: string, change: Partial<ParcelStyle> = {}): ParcelStyle => ({
  family: "Furrow",
  style: name,
  fullName: `Furrow ${name}`,
  rightToLeft: false,
  sample: "",
  sha256: name,
  face: 0,
  path: `${name}.ttf`,
  weight: 400,
  italic: false,
  codepoints: 90,
  container: "sfnt",
  verdict: "sound",
  findings: [],
  shelved: false,
  twin: "",
  known: "",
  names: "",
  unwrap: null,
  ...change,
});
const drawer = (family: string, ...styles: ParcelStyle[]): ParcelDetail["drawers"][number] => ({
  family,
  notes: [],
  remarks: [],
  alike: [],
  clearance: null,
  styles,
});
const entry = (
  path: string,
  kind: ParcelDetail["entries"][number]["kind"],
  problem: ParcelDetail["entries"][number]["problem"] = null,
) => ({
  path,
  kind,
  reason: "",
  bytes: 10,
  sha256: path,
  problem,
});
const parcel = (change: Partial<ParcelDetail>): ParcelDetail => ({
  id: 1,
  name: "a.zip",
  bytes: 10,
  state: "ready",
  progress: null,
  problem: null,
  arrivedAt: "2026-01-01T00:00:00.000Z",
  counts: {},
  families: 1,
  styles: 1,
  shelvedStyles: 0,
  shelvableStyles: 1,
  unwrappableStyles: 0,
  troubles: 0,
  beingRead: 0,
  cleared: false,
  drawers: [],
  entries: [],
  hasTwins: false,
  ...change,
});
const none: ReadonlySet<string> = new Set();
const what = (rows: ReturnType<typeof rowsOf>): string[] => rows.map((row) => row.key);

test("trouble comes first: files that could not be read, then drawers with a damaged style", () => {
  const problem = { code: "font-truncated", message: "It is cut off.", next: "Download it again." };
  const rows = rowsOf(
    parcel({
      drawers: [drawer("Aster", style("Regular")), drawer("Furrow", style("Bold", { verdict: "refused" }))],
      entries: [entry("Regular.ttf", "font"), entry("broken.ttf", "font", problem)],
    }),
    none,
  );
  expect(what(rows)).toEqual(["trouble broken.ttf", "tab Furrow", "style Bold#0", "tab Aster", "style Regular#0"]);
});

test("a drawer of four hundred styles is four hundred light lines, the last one closing it", () => {
  const styles = Array.from({ length: 400 }, (_, i) => style(String(i)));
  const rows = rowsOf(parcel({ drawers: [drawer("Furrow", ...styles)] }), none);
  expect(rows).toHaveLength(401);
  expect(rows.filter((row) => row.what === "style" && row.last)).toHaveLength(1);
  expect(new Set(what(rows)).size).toBe(401);
});

test("what is no font stands below by kind; a kind opens into its files", () => {
  const value = parcel({
    entries: [
      entry("a.ttf", "font"),
      entry("a.txt", "paper"),
      entry("b.txt", "paper"),
      entry("x.url", "junk"),
      entry("a.woff", "web font"),
    ],
  });
  expect(what(rowsOf(value, none))).toEqual(["tab rest", "kind paper", "kind junk"]);
  expect(what(rowsOf(value, new Set(["kind paper"])))).toEqual(["tab rest", "kind paper", "entry a.txt", "entry b.txt", "kind junk"]);
});

test("the choice between formats, notes and clearance stand where they are wanted", () => {
  const noted = {
    ...drawer("Furrow", style("Regular")),
    notes: ["Capitals only."],
    clearance: { headline: "Free for everything.", uses: [], term: null, lapsed: false, beingRead: 0, summary: "Every use" },
  };
  expect(what(rowsOf(parcel({ drawers: [noted], hasTwins: true }), none))).toEqual([
    "twins",
    "tab Furrow",
    "notes Furrow",
    "clearance Furrow",
    "style Regular#0",
  ]);
});
