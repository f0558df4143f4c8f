// Queries on paired devices and on what they say of themselves.
import type { Db } from "../database.ts";

export interface PairingRow {
  deviceId: number;
  pairedAt: string;
  seenAt: string;
}
export interface AnswerRow {
  sha256: string;
  answer: "there" | "not-there" | "cannot-tell";
  at: string;
  /** Since when it has been the answer. */
  since: string;
}

export class PairingStore {
  private readonly db: Db;
  constructor(db: Db) {
    this.db = db;
  }
  add(deviceId: number, tokenSha256: string, at: string): void {
    this.db
      .prepare("INSERT INTO pairings (device_id, token_sha256, paired_at, seen_at) VALUES (?, ?, ?, ?)")
      .run(deviceId, tokenSha256, at, at);
  }
  /** The device a token belongs to; undefined when it was revoked, never given, or not used since `since`. */
  deviceOf(tokenSha256: string, since: string): number | undefined {
    return this.db
      .prepare("SELECT device_id FROM pairings WHERE token_sha256 = ? AND revoked_at IS NULL AND seen_at >= ?")
      .pluck()
      .get(tokenSha256, since) as number | undefined;
  }
  seen(deviceId: number, at: string): void {
    this.db.prepare("UPDATE pairings SET seen_at = ? WHERE device_id = ?").run(at, deviceId);
  }
  revoke(deviceId: number, at: string): void {
    this.db.prepare("UPDATE pairings SET revoked_at = ? WHERE device_id = ? AND revoked_at IS NULL").run(at, deviceId);
  }
  /** Takes a revocation back: the device's own token counts again. */
  restore(deviceId: number): void {
    this.db.prepare("UPDATE pairings SET revoked_at = NULL WHERE device_id = ?").run(deviceId);
  }
  isRevoked(deviceId: number): boolean {
    return this.db.prepare("SELECT 1 FROM pairings WHERE device_id = ? AND revoked_at IS NOT NULL").get(deviceId) !== undefined;
  }
  get(deviceId: number): PairingRow | undefined {
    return this.db
      .prepare("SELECT device_id AS deviceId, paired_at AS pairedAt, seen_at AS seenAt FROM pairings WHERE device_id = ?")
      .get(deviceId) as PairingRow | undefined;
  }
  answer(deviceId: number, sha256: string, answer: AnswerRow["answer"], at: string): void {
    this.db
      .prepare(
        `INSERT INTO device_answers (device_id, sha256, answer, at, since) VALUES (?, ?, ?, ?, ?)
         ON CONFLICT (device_id, sha256) DO UPDATE SET at = excluded.at, answer = excluded.answer,
          since = CASE WHEN answer = excluded.answer THEN since ELSE excluded.since END`,
      )
      .run(deviceId, sha256, answer, at, at);
  }
  answers(deviceId: number): AnswerRow[] {
    return this.db
      .prepare("SELECT sha256, answer, at, since FROM device_answers WHERE device_id = ? ORDER BY sha256")
      .all(deviceId) as AnswerRow[];
  }
}
