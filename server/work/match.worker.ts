// Runs in a worker thread: measures faces, reads pictures of lettering, and finds fonts for them. The index of measured letters is kept between tasks.
import { createHash } from "node:crypto";
import { readFileSync } from "node:fs";
import { readFile } from "node:fs/promises";
import Database from "better-sqlite3";
import { PNG } from "pngjs";
import { openDrawFace } from "../../core/bench/draw-face.ts";
import { readColours, type Colours } from "../../core/evidence/image.ts";
import { isWebp, loadWebp } from "../../core/evidence/webp.ts";
import { MEASURED_SCRIPTS, type MeasuredScript } from "../../core/matching/faces/alphabet.ts";
import { alikeFaces } from "../../core/matching/answer/alike.ts";
import { SHAPES_VERSION, shapesOf } from "../../core/matching/faces/face-shape.ts";
import type { Frame, Rgb, Stroke } from "../../core/matching/picture/framed.ts";
import { FaceIndex } from "../../core/matching/faces/index-of-faces.ts";
import { linesOf } from "../../core/matching/picture/lines.ts";
import { matchLine, seeLine, type Asked, type Candidate, type SeenLine } from "../../core/matching/answer/match.ts";
import type { Manner } from "../../core/matching/faces/manner.ts";
import { ok, type Result } from "../../core/problem.ts";
import { breathe } from "./breathe.ts";
import { serve } from "./serve.ts";

export interface AskedLine {
  frame: Frame;
  strokes: readonly Stroke[];
  /** "#rrggbb"; null when none was chosen. */
  colour: string | null;
  words: string;
}
export type MatchTask =
  | { kind: "measure"; faces: readonly { path: string; face: number }[] }
  | { kind: "lines"; path: string }
  | { kind: "read"; library: string; path: string; asked: AskedLine }
  /** `paths` of the faces that may be looked among, by their file and number. */
  | { kind: "match"; library: string; path: string; asked: AskedLine; paths: Readonly<Record<string, string>> }
  /** The nearest to each of some faces, among others. */
  | { kind: "alike"; library: string; of: readonly string[]; among: readonly string[]; most: number };

export interface MeasuredFace {
  manner: Manner;
  tables: { script: MeasuredScript; letters: Uint8Array }[];
}
export interface PictureLines {
  width: number;
  height: number;
  sha256: string;
  lines: Frame[];
}
export interface LineReading {
  letters: { letter: string; sure: number; box: { x: number; y: number; width: number; height: number } | null }[];
  words: string;
  joined: boolean;
  turned: SeenLine["turned"];
  png: Uint8Array;
  width: number;
  height: number;
  colours: { letters: string; ground: string };
}
export interface MatchFound {
  candidates: (Omit<Candidate, "face"> & { key: string })[];
  among: number;
  turned: SeenLine["turned"];
  straightened: number;
  /** What was read, where nobody typed it. */
  words: string;
}
/** Of each face asked about, the others by their keys, the nearest first. */
export type AlikeFound = { of: string; found: { key: string; distance: number }[] }[];
export interface MatchOutcomes {
  measure: (MeasuredFace | null)[];
  lines: Result<PictureLines>;
  read: Result<LineReading>;
  match: Result<MatchFound>;
  alike: AlikeFound;
}
/** How many of the likeliest fonts were laid over the picture. */
export interface MatchTold {
  done: number;
  of: number;
}

async function measure(faces: Extract<MatchTask, { kind: "measure" }>["faces"]): Promise<(MeasuredFace | null)[]> {
  const found: (MeasuredFace | null)[] = [];
  for (const { path, face: index } of faces) {
    const bytes = await readFile(path).then(
      (read) => Uint8Array.from(read),
      () => undefined,
    );
    await breathe(bytes?.length ?? 0);
    const face = bytes && openDrawFace(bytes, index);
    const shapes = face && shapesOf(face);
    found.push(
      shapes
        ? {
            manner: shapes.manner,
            tables: [...shapes.tables].map(([script, letters]) => ({ script, letters: new Uint8Array(letters.buffer) })),
          }
        : null,
    );
  }
  return found;
}

interface Held {
  library: string;
  db: Database.Database;
  index: FaceIndex;
  /** The face of each number of the index, and back. */
  keys: string[];
  numbers: Map<string, number>;
  joined: boolean[];
  last: number;
}
let held: Held | undefined;
/** The index of what is measured, brought up to date. A face measured anew takes the place of its older self. */
function indexOf(library: string): Held {
  if (held?.library !== library) {
    held = {
      library,
      db: new Database(library, { readonly: true }),
      index: new FaceIndex(),
      keys: [],
      numbers: new Map(),
      joined: [],
      last: 0,
    };
  }
  const { db, index } = held;
  if (held.last === 0) {
    const counts = db.prepare("SELECT script, count(*) AS count FROM face_letters GROUP BY script").all() as {
      script: string;
      count: number;
    }[];
    for (const { script, count } of counts)
      if ((MEASURED_SCRIPTS as readonly string[]).includes(script)) index.reserve(script as MeasuredScript, count);
  }
  const shapes = db
    .prepare("SELECT id, sha256, face, joined FROM face_shapes WHERE id > ? AND measured = 1 AND version = ? ORDER BY id")
    .all(held.last, SHAPES_VERSION) as { id: number; sha256: string; face: number; joined: number | null }[];
  const tables = db.prepare("SELECT script, letters FROM face_letters WHERE shape_id = ?");
  for (const { id, sha256, face, joined } of shapes) {
    const rows = tables.all(id) as { script: MeasuredScript; letters: Uint8Array }[];
    const number = index.add(
      new Map(rows.map(({ script, letters }) => [script, new Int8Array(letters.buffer, letters.byteOffset, letters.length)])),
    );
    const key = `${sha256}#${face}`;
    held.keys[number] = key;
    held.numbers.set(key, number);
    held.joined[number] = (joined ?? 0) > 0.5;
    held.last = id;
  }
  return held;
}

/** The picture looked at last: it is asked about again and again. */
let looked: { path: string; picture: Colours } | undefined;
async function pictureAt(path: string): Promise<Result<Colours>> {
  if (looked?.path === path) return ok(looked.picture);
  const bytes = Uint8Array.from(await readFile(path));
  const read = readColours(bytes, isWebp(bytes) ? await loadWebp() : undefined);
  if (read.ok) looked = { path, picture: read.value };
  return read;
}
const colourOf = (hex: string): Rgb => [1, 3, 5].map((at) => Number.parseInt(hex.slice(at, at + 2), 16)) as unknown as Rgb;
const hexOf = (colour: Rgb): string =>
  `#${colour.map((value) => Math.max(0, Math.min(255, value)).toString(16).padStart(2, "0")).join("")}`;
const askedOf = ({ frame, strokes, colour, words }: AskedLine): Asked => ({
  frame,
  strokes,
  words,
  colour: colour === null ? undefined : colourOf(colour),
});

async function lines(path: string): Promise<Result<PictureLines>> {
  const bytes = await readFile(path);
  const picture = await pictureAt(path);
  if (!picture.ok) return picture;
  const { width, height } = picture.value;
  return ok({ width, height, sha256: createHash("sha256").update(bytes).digest("hex"), lines: linesOf(picture.value) });
}

async function read({ library, path, asked }: Extract<MatchTask, { kind: "read" }>): Promise<Result<LineReading>> {
  const picture = await pictureAt(path);
  if (!picture.ok) return picture;
  const seen = seeLine(picture.value, askedOf(asked), indexOf(library).index);
  if (!seen.ok) return seen;
  const { framed, line, turned } = seen.value;
  const { width, height, ink } = framed.grey;
  const png = new PNG({ width, height });
  for (let i = 0; i < ink.length; i++) png.data.fill(Math.round(255 * (1 - ink[i]!)), 4 * i, 4 * i + 3).fill(255, 4 * i + 3, 4 * i + 4);
  return ok({
    letters: line.letters.map(({ letter, sure, box }) => ({
      letter,
      sure,
      box: box ? { x: box.x0 / width, y: box.y0 / height, width: (box.x1 - box.x0) / width, height: (box.y1 - box.y0) / height } : null,
    })),
    words: line.words,
    joined: !line.apart,
    turned,
    width,
    height,
    png: PNG.sync.write(png),
    colours: { letters: hexOf(framed.colours.letters), ground: hexOf(framed.colours.ground) },
  });
}

async function match(
  { library, path, asked, paths }: Extract<MatchTask, { kind: "match" }>,
  tell: (told: MatchTold) => void,
): Promise<Result<MatchFound>> {
  const picture = await pictureAt(path);
  if (!picture.ok) return picture;
  const { index, keys, numbers, joined } = indexOf(library);
  const seen = seeLine(picture.value, askedOf(asked), index);
  if (!seen.ok) return seen;
  const among = new Set(Object.keys(paths).flatMap((key) => numbers.get(key) ?? []));
  let loaded = 0;
  const load = (number: number) => {
    const key = keys[number]!;
    try {
      const bytes = Uint8Array.from(readFileSync(paths[key]!));
      loaded += bytes.length;
      return { bytes, index: Number(key.split("#")[1]) };
    } catch {
      return undefined;
    }
  };
  const typed = asked.words.trim() !== "";
  const about = { isJoined: (number: number) => joined[number]!, allowed: (number: number) => among.has(number) };
  const found = await matchLine(seen.value, typed, index, load, about, async (done, of) => {
    if (done % 8 === 0) tell({ done, of });
    await breathe(loaded);
    loaded = 0;
    return true;
  });
  if (!found.ok) return found;
  const candidates = found.value.map(({ face, ...one }) => ({ ...one, key: keys[face]! }));
  return ok({
    candidates,
    among: among.size,
    turned: seen.value.turned,
    straightened: seen.value.straightened,
    words: typed ? "" : seen.value.line.words,
  });
}

function alike({ library, of, among, most }: Extract<MatchTask, { kind: "alike" }>): AlikeFound {
  const { index, keys, numbers } = indexOf(library);
  const others = new Set(among.flatMap((key) => numbers.get(key) ?? []));
  return of.flatMap((key) => {
    const own = numbers.get(key);
    if (own === undefined) return [];
    const near = alikeFaces(index, own, (number) => !others.has(number)).slice(0, most);
    return [{ of: key, found: near.map(({ face, distance }) => ({ key: keys[face]!, distance })) }];
  });
}

serve<MatchTask, MatchOutcomes[MatchTask["kind"]], MatchTold>((task, tell) => {
  switch (task.kind) {
    case "measure":
      return measure(task.faces);
    case "lines":
      return lines(task.path);
    case "read":
      return read(task);
    case "match":
      return match(task, tell);
    case "alike":
      return Promise.resolve(alike(task));
  }
});
