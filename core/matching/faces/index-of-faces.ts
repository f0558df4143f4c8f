// The measured letters of many faces in one place, to be gone through quickly: one table a script, faces in the same order in each.
import { LETTERS, MEASURED_SCRIPTS, slotOf, type MeasuredScript } from "./alphabet.ts";
import { bottomOf, LETTER_BYTES, topOf, widthOf, type FaceShapes } from "./face-shape.ts";
import { FORM_SIZE, formDistance } from "./letter-form.ts";
import type { Usual } from "../picture/segments.ts";

interface Table {
  /** `LETTER_BYTES` a letter, an alphabet a row. */
  letters: Int8Array;
  rows: number;
  /** The row of each face; −1 where it has none. */
  rowOf: Int32Array;
}
const GROWTH = 1.2;

export class FaceIndex {
  private readonly tables = new Map<MeasuredScript, Table>();
  private count = 0;
  get size(): number {
    return this.count;
  }
  /** Bytes held. */
  get bytes(): number {
    return [...this.tables.values()].reduce((sum, { letters, rowOf }) => sum + letters.byteLength + rowOf.byteLength, 0);
  }

  /** Adds a face's tables; answers the number it has from now on. */
  add(tables: FaceShapes["tables"]): number {
    const face = this.count++;
    for (const [script, letters] of tables) {
      const wide = LETTERS[script].length * LETTER_BYTES;
      if (letters.length !== wide) continue;
      let table = this.tables.get(script);
      if (!table) this.tables.set(script, (table = { letters: new Int8Array(0), rows: 0, rowOf: new Int32Array(0) }));
      if (table.letters.length < (table.rows + 1) * wide) this.makeRoom(table, wide, Math.ceil((table.rows + 16) * GROWTH));
      if (table.rowOf.length <= face) {
        const grown = new Int32Array(Math.ceil((face + 64) * GROWTH)).fill(-1);
        grown.set(table.rowOf);
        table.rowOf = grown;
      }
      table.letters.set(letters, table.rows * wide);
      table.rowOf[face] = table.rows++;
    }
    return face;
  }
  private makeRoom(table: Table, wide: number, rows: number): void {
    const grown = new Int8Array(rows * wide);
    grown.set(table.letters.subarray(0, table.rows * wide));
    table.letters = grown;
  }
  /** Room for so many faces of a script is made at once. */
  reserve(script: MeasuredScript, faces: number): void {
    const table = this.tables.get(script) ?? { letters: new Int8Array(0), rows: 0, rowOf: new Int32Array(0) };
    this.tables.set(script, table);
    const wide = LETTERS[script].length * LETTER_BYTES;
    if (table.letters.length < faces * wide) this.makeRoom(table, wide, faces);
  }

  has(face: number, script: MeasuredScript): boolean {
    return (this.tables.get(script)?.rowOf[face] ?? -1) >= 0;
  }
  scriptsOf(face: number): MeasuredScript[] {
    return MEASURED_SCRIPTS.filter((script) => this.has(face, script));
  }
  /** Where a face has a letter: the table, and the place in it. Undefined when it has none. */
  letter(face: number, script: MeasuredScript, at: number): { table: Int8Array; at: number } | undefined {
    const table = this.tables.get(script);
    const row = table?.rowOf[face] ?? -1;
    if (!table || row < 0) return undefined;
    const place = (row * LETTERS[script].length + at) * LETTER_BYTES;
    return table.letters[place + FORM_SIZE + 2] === -128 ? undefined : { table: table.letters, at: place };
  }

  /** What a letter measures in the middle of up to 400 faces, in ems; undefined where no face has it. */
  usual(letter: string): Usual | undefined {
    const slot = slotOf(letter);
    if (!slot) return undefined;
    const found: Usual[] = [];
    const step = Math.max(1, Math.floor(this.count / 400));
    for (let face = 0; face < this.count; face += step) {
      const one = this.letter(face, slot.script, slot.at);
      if (one) found.push({ width: widthOf(one.table, one.at), top: topOf(one.table, one.at), bottom: bottomOf(one.table, one.at) });
    }
    if (found.length === 0) return undefined;
    const middle = (of: (one: Usual) => number) => found.map(of).sort((a, b) => a - b)[Math.floor(found.length / 2)]!;
    return { width: middle((one) => one.width), top: middle((one) => one.top), bottom: middle((one) => one.bottom) };
  }

  /** The letters of a script a form is nearest to, over up to `most` faces: the mean of the three nearest of each letter, nearest first. */
  nearestLetters(form: Int8Array, script: MeasuredScript, most: number): { letter: string; distance: number; least: number }[] {
    const table = this.tables.get(script);
    if (!table) return [];
    const letters = LETTERS[script];
    const nearest = letters.map(() => [1, 1, 1]);
    const step = Math.max(1, Math.floor(table.rows / most));
    for (let row = 0; row < table.rows; row += step) {
      for (let i = 0; i < letters.length; i++) {
        const at = (row * letters.length + i) * LETTER_BYTES;
        if (table.letters[at + FORM_SIZE + 2] === -128) continue;
        const distance = formDistance(form, 0, table.letters, at);
        const best = nearest[i]!;
        if (distance >= best[2]!) continue;
        best[2] = distance;
        best.sort((a, b) => a - b);
      }
    }
    return letters
      .map((code, i) => ({
        letter: String.fromCodePoint(code),
        distance: (nearest[i]![0]! + nearest[i]![1]! + nearest[i]![2]!) / 3,
        least: nearest[i]![0]!,
      }))
      .sort((a, b) => a.distance - b.distance);
  }
}
