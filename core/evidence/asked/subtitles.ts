// Subtitles that name fonts in styles and in their lines, and may carry them in a part of their own; from memory.
import { UNKNOWN_ORIGIN } from "../origin.ts";
import { subtitleBytes } from "./held.ts";
import { Gathered, type AskedDocument, type HeldFont } from "./text.ts";

/** A style has 23, a line ten. */
const MOST_COLUMNS = 100;

interface Style {
  family: string;
  bold: number;
  italic: boolean;
}
const weightOf = (bold: number): number => (bold === -1 || bold === 1 ? 700 : bold >= 100 ? bold : 400);

/** A line's words and its overrides in braces, in order. */
function* inParts(line: string): Generator<string> {
  let from = 0;
  for (;;) {
    const open = line.indexOf("{", from);
    const close = open < 0 ? -1 : line.indexOf("}", open);
    if (close < 0) break;
    yield line.slice(from, open);
    yield line.slice(open, close + 1);
    from = close + 1;
  }
  yield line.slice(from);
}

export function readSubtitles(text: string): AskedDocument {
  const lines = text.split(/\r?\n/);
  const section = (name: RegExp): string[] => {
    const start = lines.findIndex((line) => name.test(line.trim()));
    if (start < 0) return [];
    const end = lines.findIndex((line, i) => i > start && /^\[[\w+ ]+\]\s*$/.test(line));
    return lines.slice(start + 1, end < 0 ? undefined : end);
  };
  /** Which columns a part has, and how one of its lines is read by their names; the last takes the rest of the line. */
  const columnsOf = (part: readonly string[]) => {
    const format = part.find((line) => /^Format:/i.test(line)) ?? "";
    const names = format
      .replace(/^\w+:/, "")
      .split(",", MOST_COLUMNS)
      .map((one) => one.trim().toLowerCase());
    const places = new Map(names.map((name, i) => [name, i] as const).reverse());
    return (line: string) => {
      const parts = line.replace(/^\w+:/, "").split(",");
      return (name: string): string => {
        const place = places.get(name);
        if (place === undefined) return "";
        return ((place === names.length - 1 ? parts.slice(place).join(",") : parts[place]) ?? "").trim();
      };
    };
  };
  const styleLines = [...section(/^\[V4\+ Styles\]$/i), ...section(/^\[V4 Styles\]$/i)];
  const styleCells = columnsOf(styleLines);
  const styles = new Map<string, Style>();
  for (const line of styleLines.filter((one) => /^Style:/i.test(one))) {
    const value = styleCells(line);
    styles.set(value("name"), {
      family: value("fontname").replace(/^@/, ""),
      bold: Number(value("bold")) || 0,
      italic: Number(value("italic")) !== 0 && value("italic") !== "",
    });
  }
  const held: HeldFont[] = [];
  let current: { family: string; lines: string[] } | undefined;
  const keep = () => {
    if (current) held.push({ family: current.family, bytes: subtitleBytes(current.lines) });
  };
  for (const line of section(/^\[Fonts\]$/i)) {
    const found = /^fontname:\s{0,9}(.+)\.\w+$/i.exec(line.trim());
    if (!found) {
      if (line.trim() !== "") current?.lines.push(line);
      continue;
    }
    keep();
    current = { family: found[1]!.replace(/_[BI]?\d*$/i, ""), lines: [] };
  }
  keep();
  const gathered = new Gathered();
  const events = section(/^\[Events\]$/i);
  const cells = columnsOf(events);
  for (const line of events.filter((one) => /^Dialogue:/i.test(one))) {
    const value = cells(line);
    const base = styles.get(value("style").replace(/^\*/, "")) ?? styles.get("Default");
    let now: Style = base ?? { family: "", bold: 0, italic: false };
    let drawing = false;
    let hidden = "";
    for (const part of inParts(value("text"))) {
      if (!(part.startsWith("{") && part.endsWith("}"))) {
        const words = part.replace(/\\[Nnh]/g, " ");
        if (!drawing && words.trim() !== "")
          gathered.add(words, { families: [now.family], weight: weightOf(now.bold), italic: now.italic }, hidden);
        continue;
      }
      for (const [, tag = "", argument = ""] of part.slice(1, -1).matchAll(/\\(fn|b|i|r|p|alpha|1a)(?![a-z])([^\\]*)/g)) {
        const own = argument.trim();
        if (tag === "fn") now = { ...now, family: own === "" ? (base?.family ?? "") : own.replace(/^@/, "") };
        else if (tag === "b") now = { ...now, bold: own === "" ? (base?.bold ?? 0) : Number(own) || 0 };
        else if (tag === "i") now = { ...now, italic: own === "" ? (base?.italic ?? false) : own === "1" };
        else if (tag === "r") now = (own === "" ? base : styles.get(own)) ?? now;
        else if (tag === "p") drawing = Number(own) > 0;
        else hidden = /^&?H?FF&?$/i.test(own) ? "transparent" : "";
      }
    }
  }
  return {
    kind: "subtitles",
    texts: gathered.texts,
    declared: [...styles.values()].map(({ family }) => family),
    held,
    origin: UNKNOWN_ORIGIN,
  };
}
