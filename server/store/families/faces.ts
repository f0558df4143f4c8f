// A face's facts as the database holds them; made where the font is read, so that storing them is writing texts and numbers.
import { createHash } from "node:crypto";
import type { MeantStyle } from "../../../core/evidence/meant.ts";
import { lookedUpBy } from "../../../core/evidence/meant.ts";
import { BRIEF_VERSION, briefOf, claimKeys, slimClaim, type Brief } from "../../../core/family/brief.ts";
import type { Inspection } from "../../../core/inspect.ts";
import type { Db } from "../database.ts";

/** What older readers did not look for, until the font can be read again. */
const NEUTRAL: Partial<Inspection> = {
  advances: [],
  drawings: "",
  instances: [],
  axisValues: [],
  colour: [],
  axes: [],
  styleWords: { rest: [] },
  opticalPt: null,
  blankLetters: false,
  capitals: "none",
  otherNames: [],
  makers: [],
  stated: { copyright: "", trademark: "", licence: "", licenceUrl: "", fsType: 0, os2Version: 0 },
};

export const parseRecord = (text: string): Inspection => ({ ...NEUTRAL, ...(JSON.parse(text) as Inspection) });

/** One row of `faces`, by column. */
interface FaceColumns {
  sha256: string;
  face: number;
  family: string;
  style: string;
  legacy_family: string;
  legacy_style: string;
  full_name: string;
  postscript_name: string;
  weight: number;
  width: number;
  italic: number;
  codepoints: number;
  container: string;
  bytes: number;
  verdict: string;
  record: string;
  record_version: number;
  family_key: string;
  style_key: string;
  stated_key: string;
  brief: string;
  claim: string;
  revision: number;
  brief_version: number;
  metrics: string;
}
/** What is stored of a face: its row, the names documents may mean it by, and its characters as 32-bit bounds of ranges. */
export interface FaceFacts {
  columns: FaceColumns;
  names: string[];
  ranges: Uint8Array;
}
/** What follows from a record, and is made anew from it when an older program made it. */
const DERIVED = ["family_key", "style_key", "stated_key", "brief", "claim", "revision", "brief_version", "metrics"] as const;
const KNOWN = [
  "family",
  "style",
  "legacy_family",
  "legacy_style",
  "full_name",
  "postscript_name",
  "weight",
  "width",
  "italic",
  "codepoints",
  "container",
  "verdict",
  "record",
  "record_version",
] as const;
const COLUMNS: readonly (keyof FaceColumns)[] = ["sha256", "face", "bytes", ...KNOWN, ...DERIVED];
/** What a newer reader may say otherwise. */
const RENEWED = [...KNOWN, ...DERIVED];

/** Letters' widths as one text; empty where there are too few to tell anything. */
const metricsOf = ({ advances }: Pick<Inspection, "advances">): string =>
  advances.filter((advance) => advance >= 0).length < LEAST_WIDTHS ? "" : JSON.stringify(advances);
const LEAST_WIDTHS = 5;

/** Names what a font states of its licence, by its contents. */
const statedKey = (record: Inspection): string => createHash("sha256").update(JSON.stringify(record.stated)).digest("hex");

/** Everything that is stored of a face, made where its font is read. */
export function faceFacts(sha256: string, bytes: number, record: Inspection): FaceFacts {
  const keys = claimKeys(record);
  const brief = briefOf(record);
  return {
    columns: {
      sha256,
      face: record.face,
      family: record.family,
      style: record.style,
      legacy_family: record.legacyFamily,
      legacy_style: record.legacyStyle,
      full_name: record.fullName,
      postscript_name: record.postScriptName,
      weight: record.weight,
      width: record.width,
      italic: Number(record.italic),
      codepoints: record.codepoints,
      container: record.container,
      bytes,
      verdict: record.verdict,
      record: JSON.stringify(record),
      record_version: record.recordVersion,
      family_key: keys.family,
      style_key: keys.style,
      stated_key: statedKey(record),
      brief: JSON.stringify(brief),
      claim: JSON.stringify(slimClaim(record, sha256)),
      revision: record.revision,
      brief_version: BRIEF_VERSION,
      metrics: metricsOf(record),
    },
    names: [...namesOf(brief)],
    ranges: rangeBytes(record.ranges),
  };
}

/** Remembers faces; a record made by an older reader is replaced. */
export function putFaces(db: Db, facts: readonly FaceFacts[]): void {
  const put = db.prepare(
    `INSERT INTO faces (${COLUMNS.join()}) VALUES (${COLUMNS.map((column) => `@${column}`).join()})
     ON CONFLICT (sha256, face) DO UPDATE SET ${RENEWED.map((column) => `${column} = excluded.${column}`).join()}
     WHERE excluded.record_version > record_version OR excluded.brief_version > brief_version`,
  );
  const name = db.prepare("INSERT OR IGNORE INTO face_names (plain, sha256, face) VALUES (?, ?, ?)");
  const ranges = db.prepare("INSERT OR REPLACE INTO face_ranges (sha256, face, ranges) VALUES (?, ?, ?)");
  for (const { columns, names, ranges: characters } of facts) {
    put.run(columns);
    for (const plain of names) name.run(plain, columns.sha256, columns.face);
    ranges.run(columns.sha256, columns.face, characters);
  }
}
const rangeBytes = (ranges: readonly number[]): Buffer => Buffer.from(Uint32Array.from(ranges).buffer);
/** Whether a face has each of some characters, by its ranges as they are stored. */
export function rangesHold(bytes: Uint8Array, codePoints: readonly number[]): boolean[] {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  return codePoints.map((codePoint) => {
    let [low, high] = [0, bytes.byteLength / 8 - 1];
    while (low <= high) {
      const middle = (low + high) >> 1;
      if (codePoint < view.getUint32(8 * middle, true)) high = middle - 1;
      else if (codePoint > view.getUint32(8 * middle + 4, true)) low = middle + 1;
      else return true;
    }
    return false;
  });
}

/** A face as documents may mean it. */
export const wantedStyle = ({ menu, weight, italic }: Brief): MeantStyle & { otherFamilies: string[] } => ({
  ...menu,
  weight,
  italic,
  instances: menu.instances.map((instance) => ({ name: instance })),
  otherFamilies: menu.otherNames.map(({ family }) => family),
});
const namesOf = (brief: Brief): Set<string> => lookedUpBy(wantedStyle(brief));

/** Names of faces that an older program did not take down. */
export function nameFaces(db: Db): void {
  if (db.prepare("SELECT 1 FROM face_names LIMIT 1").get() !== undefined) return;
  const name = db.prepare("INSERT OR IGNORE INTO face_names (plain, sha256, face) VALUES (?, ?, ?)");
  const rows = db.prepare("SELECT sha256, face, brief FROM faces WHERE brief <> ''").all() as {
    sha256: string;
    face: number;
    brief: string;
  }[];
  db.transaction(() => {
    db.prepare("UPDATE faces SET metrics = coalesce(json_extract(record, '$.advances'), '') WHERE metrics = ''").run();
    for (const { sha256, face, brief } of rows) for (const plain of namesOf(JSON.parse(brief) as Brief)) name.run(plain, sha256, face);
  })();
}

/** Characters of faces that an older program did not take down. */
export function listRanges(db: Db): void {
  const missing = db
    .prepare(
      "SELECT sha256, face FROM faces f WHERE NOT EXISTS (SELECT 1 FROM face_ranges r WHERE r.sha256 = f.sha256 AND r.face = f.face)",
    )
    .all() as { sha256: string; face: number }[];
  if (missing.length === 0) return;
  const rangesOf = db.prepare("SELECT coalesce(json_extract(record, '$.ranges'), '[]') FROM faces WHERE sha256 = ? AND face = ?").pluck();
  const put = db.prepare("INSERT OR REPLACE INTO face_ranges (sha256, face, ranges) VALUES (?, ?, ?)");
  db.transaction(() => {
    for (const { sha256, face } of missing) put.run(sha256, face, rangeBytes(JSON.parse(rangesOf.get(sha256, face) as string) as number[]));
  })();
}

/** Makes anew what is taken out of records, where that was done by an older program. Returns how many faces there were. */
export function renewBriefs(db: Db): number {
  const outdated = db
    .prepare(
      `SELECT sha256, face, bytes, family, style, legacy_family AS legacyFamily, legacy_style AS legacyStyle, full_name AS fullName,
         postscript_name AS postScriptName, weight, width, italic, codepoints, container, verdict
       FROM faces WHERE brief_version < ?`,
    )
    .all(BRIEF_VERSION) as (Omit<Inspection, "italic"> & { sha256: string; bytes: number; italic: number })[];
  const recordOf = db.prepare("SELECT record FROM faces WHERE sha256 = ? AND face = ?").pluck();
  const update = db.prepare(
    `UPDATE faces SET ${DERIVED.map((column) => `${column} = @${column}`).join()} WHERE sha256 = @sha256 AND face = @face`,
  );
  db.transaction(() => {
    for (const { sha256, bytes, italic, ...columns } of outdated) {
      const record: Inspection = {
        ...columns,
        italic: italic === 1,
        ...(parseRecord(recordOf.get(sha256, columns.face) as string) as Partial<Inspection>),
      };
      update.run(faceFacts(sha256, bytes, { ...record, revision: record.revision ?? 0, ranges: record.ranges ?? [] }).columns);
    }
    if (outdated.length > 0)
      db.prepare(
        `INSERT INTO readings (key, kind, source)
         SELECT f.stated_key, 'font', json_extract(f.record, '$.stated') FROM faces f
         WHERE json_extract(f.record, '$.stated') IS NOT NULL AND EXISTS (SELECT 1 FROM parcel_entries e WHERE e.sha256 = f.sha256)
         GROUP BY f.stated_key ON CONFLICT (key) DO NOTHING`,
      ).run();
  })();
  return outdated.length;
}
