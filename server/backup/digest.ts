// What a library's rows hold, table by table, as digests: a copy is the same when they are.
import { createHash } from "node:crypto";
import type Database from "better-sqlite3";
import type { Manifest } from "./manifest.ts";

const text = (value: unknown): string =>
  value instanceof Uint8Array ? `x${Buffer.from(value).toString("hex")}` : typeof value === "bigint" ? `${value}n` : JSON.stringify(value);

export function tableDigests(db: Database.Database): Manifest["tables"] {
  const tables = db
    .prepare("SELECT name, sql FROM sqlite_schema WHERE type = 'table' AND name NOT LIKE 'sqlite_%' ORDER BY name")
    .all() as { name: string; sql: string | null }[];
  const found: Manifest["tables"] = {};
  for (const { name, sql } of tables) {
    // What is indexed for searching lies in tables of its own, which are looked at too.
    if (sql?.startsWith("CREATE VIRTUAL")) continue;
    const columns = (db.prepare(`SELECT name FROM pragma_table_info(?)`).pluck().all(name) as string[]).map((one) => `"${one}"`);
    const hash = createHash("sha256");
    let rows = 0;
    for (const row of db.prepare(`SELECT ${columns.join()} FROM "${name}" ORDER BY ${columns.join()}`).raw().iterate()) {
      rows++;
      hash.update(`${(row as unknown[]).map(text).join()}\n`);
    }
    found[name] = { rows, sha256: hash.digest("hex") };
  }
  return found;
}
