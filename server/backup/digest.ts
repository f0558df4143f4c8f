// Digests a copy is the same by: of files as they are read or pass by, and of what a library's rows hold, table by table.
import { createHash } from "node:crypto";
import { Transform } from "node:stream";
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

export interface Digest {
  sha256: string;
  bytes: number;
}
/** Digests what passes through it. More than `most` bytes end it with an error. */
export function passing(most = Infinity): { through: Transform; found: () => Digest } {
  const hash = createHash("sha256");
  let bytes = 0;
  const through = new Transform({
    transform(chunk: Buffer, _encoding, done) {
      hash.update(chunk);
      bytes += chunk.length;
      if (bytes > most) done(new Error("There is more of it than was said."));
      else done(null, chunk);
    },
  });
  return { through, found: () => ({ sha256: hash.digest("hex"), bytes }) };
}
export async function digestOf(content: AsyncIterable<Uint8Array>): Promise<Digest> {
  const hash = createHash("sha256");
  let bytes = 0;
  for await (const chunk of content) {
    hash.update(chunk);
    bytes += chunk.length;
  }
  return { sha256: hash.digest("hex"), bytes };
}
