// Queries on rows of fonts on devices, and of claims that two files make.
import type { Db } from "../database.ts";

export class DeviceViewStore {
  private readonly db: Db;
  constructor(db: Db) {
    this.db = db;
  }

  // Devices

  /** Replaces the rows of fonts that claim one family's name, on all devices. */
  putDeviceFonts(
    nameKey: string,
    rows: readonly (Omit<DeviceViewRow, "on" | "visible" | "first"> & { deviceId: number; placed: boolean })[],
  ): void {
    this.db.prepare("DELETE FROM device_views WHERE name_key = ?").run(nameKey);
    const put = this.db.prepare(
      `INSERT INTO device_views (device_id, folder, file_name, face, name_key, family, style, family_id, style_id, placed, trouble, newer, rank)
       VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
       ON CONFLICT (device_id, folder, file_name, face) DO UPDATE SET name_key = excluded.name_key, family = excluded.family,
         style = excluded.style, family_id = excluded.family_id, style_id = excluded.style_id, placed = excluded.placed,
         trouble = excluded.trouble, newer = excluded.newer, rank = excluded.rank`,
    );
    for (const row of rows)
      put.run(
        row.deviceId,
        row.folder,
        row.fileName,
        row.face,
        nameKey,
        row.family,
        row.style,
        row.familyId,
        row.styleId,
        Number(row.placed),
        row.trouble,
        row.newer,
        Number((row.trouble & ~TROUBLE.off) === 0),
      );
  }
  putDuplicates(nameKey: string, rows: readonly { deviceId: number; claim: string; inTheWay: boolean }[]): void {
    this.db.prepare("DELETE FROM device_duplicates WHERE name_key = ?").run(nameKey);
    const put = this.db.prepare(
      `INSERT INTO device_duplicates (device_id, claim, name_key, in_the_way) VALUES (?, ?, ?, ?)
       ON CONFLICT (device_id, claim) DO UPDATE SET name_key = excluded.name_key, in_the_way = excluded.in_the_way`,
    );
    for (const row of rows) put.run(row.deviceId, row.claim, nameKey, Number(row.inTheWay));
  }
  /** How many fonts a device holds and what is the matter with how many of them; files count once. */
  deviceCounts(deviceId: number): {
    placed: number;
    builtIn: number;
    duplicates: number;
    off: number;
    unseen: number;
    outdated: number;
    lapsed: number;
  } {
    const counts = this.db
      .prepare(
        `SELECT count(*) FILTER (WHERE folder IN ('me', 'everyone', 'profile')) AS placed, count(*) FILTER (WHERE folder = 'built-in') AS builtIn,
           count(*) FILTER (WHERE folder IN ('me', 'everyone', 'profile') AND is_on = 0) AS off,
           count(*) FILTER (WHERE folder IN ('me', 'everyone', 'profile') AND is_on = 1 AND is_visible = 0) AS unseen
         FROM observed_fonts WHERE device_id = ?`,
      )
      .get(deviceId) as { placed: number; builtIn: number; off: number; unseen: number };
    const files = this.db.prepare(
      "SELECT count(DISTINCT folder || '/' || file_name) FROM device_views WHERE device_id = ? AND placed = 1 AND trouble & ? <> 0",
    );
    const troubled = (bit: number) => files.pluck().get(deviceId, bit) as number;
    const duplicates = this.db
      .prepare("SELECT count(*) FROM device_duplicates WHERE device_id = ? AND in_the_way = 1")
      .pluck()
      .get(deviceId) as number;
    return { ...counts, duplicates, outdated: troubled(TROUBLE.outdated), lapsed: troubled(TROUBLE.lapsed) };
  }
  /** Fonts placed on a device, family by family, those with a remark first. `words` must each be in a family's, style's or file's name. */
  deviceFonts(deviceId: number, words: readonly string[], from: number, limit: number): { total: number; rows: DeviceViewRow[] } {
    const found = ["device_id = ? AND placed = 1", ...words.map(() => "instr(name_key || ' ' || lower(style || ' ' || file_name), ?) > 0")];
    const where = found.join(" AND ");
    const total = this.db
      .prepare(`SELECT count(*) FROM device_views WHERE ${where}`)
      .pluck()
      .get(deviceId, ...words) as number;
    const order = "family_rank, name_key, style, folder, file_name";
    const rows = this.db
      .prepare(
        `SELECT v.folder, v.file_name AS fileName, v.face, v.family, v.style, v.family_id AS familyId, v.style_id AS styleId, v.trouble, v.newer,
           o.is_on AS "on", o.is_visible AS visible, v.before IS NOT v.name_key AS first
         FROM (SELECT *, LAG(name_key) OVER (ORDER BY ${order}) AS before
               FROM (SELECT *, MIN(rank) OVER (PARTITION BY name_key) AS family_rank FROM device_views WHERE ${where})
               ORDER BY ${order} LIMIT ? OFFSET ?) v
         JOIN observed_fonts o ON o.device_id = v.device_id AND o.folder = v.folder AND o.file_name = v.file_name
         ORDER BY v.${order.replaceAll(", ", ", v.")}`,
      )
      .all(deviceId, ...words, limit, from) as DeviceViewRow[];
    return { total, rows };
  }
  /** Families of the fonts that came with a device, in order. */
  builtInFamilies(deviceId: number): string[] {
    return this.db
      .prepare("SELECT DISTINCT family FROM device_views WHERE device_id = ? AND placed = 0 ORDER BY name_key")
      .pluck()
      .all(deviceId) as string[];
  }
  /** Names on a device that more than one file claims. */
  duplicateClaims(deviceId: number): string[] {
    return this.db.prepare("SELECT claim FROM device_duplicates WHERE device_id = ? ORDER BY claim").pluck().all(deviceId) as string[];
  }
}

export interface DeviceViewRow {
  folder: string;
  fileName: string;
  face: number;
  family: string;
  style: string;
  familyId: number | null;
  styleId: number | null;
  trouble: number;
  newer: string;
  on: number;
  visible: number;
  /** The first of its family in the list. */
  first: number;
}
/** What can be the matter with a font on a device, as bits of its row. */
export const TROUBLE = { duplicate: 1, off: 2, unseen: 4, outdated: 8, lapsed: 16 } as const;
