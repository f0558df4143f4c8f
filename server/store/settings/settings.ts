// Queries on settings.
import { randomUUID } from "node:crypto";
import { Settings } from "../../../contract/settings.ts";
import type { Db } from "../database.ts";

export class SettingsStore {
  private readonly db: Db;
  constructor(db: Db) {
    this.db = db;
  }
  /** All settings, what was never chosen at its default. */
  get(): Settings {
    const rows = this.db.prepare("SELECT key, value FROM settings").all() as { key: string; value: string }[];
    return Settings.parse(Object.fromEntries(rows.map((row) => [row.key, JSON.parse(row.value) as unknown])));
  }
  set(change: Partial<Settings>): void {
    const put = this.db.prepare("INSERT INTO settings (key, value) VALUES (?, ?) ON CONFLICT (key) DO UPDATE SET value = excluded.value");
    this.db.transaction(() => {
      for (const [key, value] of Object.entries(change)) if (value !== undefined) put.run(key, JSON.stringify(value));
    })();
  }
  /** Names this library for good, wherever its folder is moved. */
  libraryId(): string {
    const known = this.db.prepare("SELECT value FROM settings WHERE key = 'libraryId'").pluck().get() as string | undefined;
    if (known !== undefined) return JSON.parse(known) as string;
    const id = randomUUID();
    this.db.prepare("INSERT INTO settings (key, value) VALUES ('libraryId', ?)").run(JSON.stringify(id));
    return id;
  }
}
