// A library at size: 20,000 styles in 5,000 families with papers, devices and programs, made from variations of real fonts.
import { createHash } from "node:crypto";
import { linkSync, mkdirSync, readFileSync, realpathSync, statSync, symlinkSync, writeFileSync } from "node:fs";
import { dirname, join } from "node:path";
import { USUAL_TRAITS, type ProgramKind, type ProgramTraits } from "../../contract/programs.ts";
import { NOTHING_READ, type TextFacts } from "../../core/clearance/read.ts";
import { inspectFont, type Inspection } from "../../core/inspect.ts";
import type { Parts } from "../../server/parts.ts";
import { PRACTICE_WORLD } from "../../practice/world.ts";
import { PracticeRoom } from "../../practice/room.ts";

export const STYLES = 20_000;
const STYLES_A_FAMILY = 4;
/** Families a download brings. */
const FAMILIES_A_PARCEL = 5;
/** Different papers; each parcel holds two of them. */
const PAPERS = 60;
const PROGRAMS = 10;

const NAMES = ["Regular", "Italic", "Bold", "Bold Italic"];
export const sumOf = (i: number): string => createHash("sha256").update(`style ${i}`).digest("hex");
const paperOf = (i: number): string =>
  createHash("sha256")
    .update(`paper ${i % PAPERS}`)
    .digest("hex");

const facts = (n: number, kind: "paper" | "font"): TextFacts => ({
  ...NOTHING_READ,
  statements: [
    {
      answers:
        n % 3 === 0
          ? { own: "yes", sold: "no", client: "no" }
          : { own: "yes", "given-away": "yes", sold: "yes", client: "yes", video: "yes" },
      sentence: `Statement ${n}: free for what it says here.`,
      place: kind === "paper" ? { kind, line: 3 } : { kind: "name-field", id: 13 },
    },
  ],
});

/** Real faces, one of each file, that are whole. */
export const realFaces = (fonts: readonly string[]): Inspection[] =>
  fonts.flatMap((path) => {
    const result = inspectFont(readFileSync(path), "font");
    const face = result.ok ? result.value[0] : undefined;
    return face && face.verdict !== "refused" ? [face] : [];
  });

/** Fills the shelf. `fonts` are files every style's bytes may be taken from. */
export function fillShelf(parts: Parts, fonts: readonly string[], styles = STYLES): void {
  const real = realFaces(fonts);
  const { library, parcels, readings, db } = parts;
  const families = Math.ceil(styles / STYLES_A_FAMILY);
  for (let first = 0; first < families; first += 100) {
    db.transaction(() => {
      for (let n = first; n < Math.min(families, first + 100); n++) {
        const one = real[n % real.length]!;
        const family = `${one.family} ${n}`;
        const parcelId = Math.floor(n / FAMILIES_A_PARCEL) + 1;
        if (n % FAMILIES_A_PARCEL === 0) parcels.add(`download-${parcelId}.zip`, [], parts.now());
        for (let k = 0; k < STYLES_A_FAMILY && n * STYLES_A_FAMILY + k < styles; k++) {
          const i = n * STYLES_A_FAMILY + k;
          const style = NAMES[k]!;
          const names = {
            family,
            style,
            legacyFamily: family,
            legacyStyle: style,
            fullName: `${family} ${style}`,
            postScriptName: `F${i}`,
          };
          const record = { ...one, ...names, face: 0, weight: k > 1 ? 700 : 400, italic: k % 2 === 1 };
          library.addFaces(sumOf(i), 50_000, [record]);
          parcels.addEntry(parcelId, {
            path: `${family}/${i}.ttf`,
            kind: "font",
            reason: "",
            bytes: 50_000,
            sha256: sumOf(i),
            problem: null,
          });
          library.shelve({ sha256: sumOf(i), face: 0, family }, parcelId, `${i}.ttf`, parts.now());
        }
        if (n % FAMILIES_A_PARCEL === 0) {
          for (const p of [parcelId, parcelId * 7])
            parcels.addEntry(parcelId, {
              path: `papers/${p % PAPERS}.txt`,
              kind: "paper",
              reason: "",
              bytes: 2000,
              sha256: paperOf(p),
              problem: null,
            });
          parcels.setState(parcelId, "ready");
        }
      }
    })();
  }
  db.transaction(() => {
    for (const { id, kind } of readings.next(false, 1_000_000)) readings.put(id, facts(id, kind));
  })();
}

/** Three practice devices, ten programs, and `placed` styles on the first device, as files that really lie there. */
export async function fillDevices(parts: Parts, builtInFonts: string, font: string, placed = STYLES): Promise<void> {
  const { devices, programs, observed, config, db } = parts;
  parts.settings.set({ practice: true });
  const room = new PracticeRoom(join(config.dataDir, "practice"));
  await room.prepare(builtInFonts);
  const ids = PRACTICE_WORLD.map((one) => {
    const id = devices.ensureDevice(one.slug, one.name, one.kind, "practice");
    for (const program of one.programs) programs.ensure(id, program.slug, program.name, program.kind, program.traits);
    return id;
  });
  const kinds = Object.entries(USUAL_TRAITS) as [ProgramKind, ProgramTraits][];
  for (let i = programs.all().length; i < PROGRAMS; i++) {
    const [kind, traits] = kinds[i % kinds.length]!;
    programs.put({ deviceId: ids[i % 2]!, name: `Desk ${i}`, kind, traits }, `own-${i}`);
  }
  const first = room.device(PRACTICE_WORLD[0]!.slug)!;
  const source = join(config.dataDir, "one-font.ttf");
  writeFileSync(source, readFileSync(font));
  for (let i = 0; i < placed; i++) linkSync(source, join(first.folder("me"), `${i}.ttf`));
  await first.refreshCache();
  const { mtime, size } = statSync(source);
  const at = mtime.toISOString();
  const row = { folder: "me" as const, on: true, visible: true, since: at, stamp: at, bytes: size };
  for (let from = 0; from < placed; from += 500)
    observed.enter(
      ids[0]!,
      [],
      Array.from({ length: Math.min(500, placed - from) }, (_, k) => ({ ...row, fileName: `${from + k}.ttf`, sha256: sumOf(from + k) })),
    );
  devices.setLookedAt(ids[0]!, parts.now());
  // Somebody looked at some of them.
  db.transaction(() => {
    const program = programs.all().find((one) => one.deviceId === ids[0])!;
    for (let i = 0; i < placed; i += 40) {
      const style = parts.library.styleOfFace(sumOf(i), 0);
      const rest = {
        instead: [],
        sentence: "Seen.",
        fileName: "",
        fileSha256: "",
        madeBy: "",
        letters: 0,
        pages: [],
        fonts: [],
        who: "",
        at: parts.now(),
      };
      if (style) parts.sightings.add({ styleId: style.id, programId: program.id, result: "seen", means: "eye", doubted: false, ...rest });
    }
  })();
}

/** Gives every style bytes of its own to be drawn and placed from: the real fonts', linked under its name. */
export function giveFiles(parts: Parts, fonts: readonly string[], styles = STYLES): void {
  for (let i = 0; i < styles; i++) {
    const path = parts.files.path(sumOf(i));
    mkdirSync(dirname(path), { recursive: true });
    const font = realpathSync(fonts[Math.floor(i / STYLES_A_FAMILY) % fonts.length]!);
    try {
      linkSync(font, path);
    } catch {
      // It lies on another file system.
      symlinkSync(font, path);
    }
  }
}
