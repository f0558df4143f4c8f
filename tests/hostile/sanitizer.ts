// Fonts held against the sanitizer browsers ship (Debian: opentype-sanitizer): whole ones, and copies with single numbers changed.
import { spawnSync } from "node:child_process";
import { readFileSync, writeFileSync } from "node:fs";
import { inspectFont } from "../../core/inspect.ts";

/** A copy with one to three numbers changed inside its tables, by preference near their beginnings, or a table cut. */
export function damagedCopy(whole: Uint8Array, random: () => number): Uint8Array {
  const copy = Uint8Array.from(whole);
  const view = new DataView(copy.buffer);
  const below = (most: number) => Math.floor(random() * most);
  const directory = view.getUint32(0) === 0x74746366 ? view.getUint32(12) : 0;
  const tables = view.getUint16(directory + 4);
  for (let changes = 1 + below(3); changes > 0; changes--) {
    const record = directory + 12 + 16 * below(tables);
    const [offset, length] = [view.getUint32(record + 8), view.getUint32(record + 12)];
    if (random() < 0.08) {
      view.setUint32(record + 12, below(length));
      continue;
    }
    const at = offset + below(random() < 0.6 ? Math.min(length, 120) : length);
    if (at + 2 > copy.length) continue;
    const even = at & ~1;
    const kind = below(5);
    if (kind < 2) copy[at] = below(256);
    else if (kind === 2) view.setUint16(even, below(65536));
    else if (kind === 3) view.setUint16(even, (view.getUint16(even) + (random() < 0.5 ? 1 : 65535)) & 0xffff);
    else copy[at] = copy[at]! ^ (1 << below(8));
  }
  return copy;
}

export interface Agreement {
  refused: number;
  /** Refused by the sanitizer, and neither refused nor marked here. */
  missed: string[];
  passed: number;
  /** Passed by the sanitizer, and marked here. */
  marked: string[];
}
export const noAgreement = (): Agreement => ({ refused: 0, missed: [], passed: 0, marked: [] });

/** Asks the sanitizer and core about one font; `path` may be written over when `bytes` are given. */
export function hold(agreement: Agreement, name: string, path: string, bytes?: Uint8Array): void {
  if (bytes) writeFileSync(path, bytes);
  const passes = spawnSync("ots-sanitize", [path, "/dev/null"], { stdio: "ignore" }).status === 0;
  const read = inspectFont(bytes ?? readFileSync(path), name);
  const marked = read.ok && read.value.some((face) => face.findings.some((one) => one.code === "browser-refused"));
  const refused = !read.ok || read.value.some((face) => face.verdict === "refused");
  if (passes) {
    agreement.passed++;
    if (marked) agreement.marked.push(name);
  } else {
    agreement.refused++;
    if (!marked && !refused) agreement.missed.push(name);
  }
}
