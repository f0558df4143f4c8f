// Very many changes: others are answered in between, a fault undoes its own piece only, and how far it is is told.
import { expect, test } from "@jest/globals";
import type { ServerEvent } from "../contract/events.ts";
import { openDatabase } from "./store/database.ts";
import { inPieces } from "./pieces.ts";

const numbers = (n: number) => Array.from({ length: n }, (_, i) => i);
function setting() {
  const db = openDatabase(":memory:");
  db.exec("CREATE TABLE seen (n INTEGER)");
  const told: ServerEvent[] = [];
  const put = db.prepare("INSERT INTO seen VALUES (?)");
  return { db, told, put, events: { tell: (...events: ServerEvent[]) => void told.push(...events) } };
}
const counted = ({ db }: ReturnType<typeof setting>): unknown => db.prepare("SELECT count(*) FROM seen").pluck().get();

test("all are done, in their order, and others come to their turn in between", async () => {
  const one = setting();
  let turns = 0;
  let over = false;
  const others = (): void => {
    turns++;
    if (!over) setImmediate(others);
  };
  setImmediate(others);
  await inPieces(one, numbers(1000), (piece) => piece.forEach((n) => one.put.run(n)));
  over = true;
  // Forty pieces: somebody else has a turn before each but the first.
  expect([counted(one), turns >= 39]).toEqual([1000, true]);
  expect(one.db.prepare("SELECT n FROM seen ORDER BY rowid").pluck().all()).toEqual(numbers(1000));
});
test("what is quick is not told; what takes long is, and that it is over", async () => {
  const one = setting();
  await inPieces(one, numbers(60), () => {});
  expect(one.told).toEqual([]);
  const wait = (ms: number) => Atomics.wait(new Int32Array(new SharedArrayBuffer(4)), 0, 0, ms);
  await inPieces(one, numbers(200), () => wait(120));
  const done = one.told.map((event) => (event.topic === "acting" ? event.done : -1));
  expect(done.length).toBeGreaterThan(1);
  expect(done).toEqual([...done].sort((a, b) => a - b));
  expect(one.told.at(-1)).toEqual({ topic: "acting", done: 200, total: 200 });
});
test("a fault stops it: what was done before stays done, and nothing is said to go on", async () => {
  const one = setting();
  const failing = inPieces(one, numbers(100), (piece) => {
    for (const n of piece) {
      if (n === 60) throw new Error("no room");
      one.put.run(n);
    }
  });
  await expect(failing).rejects.toThrow("no room");
  expect(counted(one)).toBe(50);
});
