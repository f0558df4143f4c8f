import { describe, expect, test } from "@jest/globals";
import { strToU8, zipSync } from "fflate";
import { SmallZipFault, unpackSmallZip } from "./small-zip.ts";

const BOUNDS = { entries: 10, bytes: 100_000 };
const whyNot = (bytes: Uint8Array, bounds = BOUNDS): string => {
  try {
    unpackSmallZip(bytes, bounds);
    return "read";
  } catch (error) {
    return error instanceof SmallZipFault ? error.why : String(error);
  }
};
const whole = zipSync({ "a/b.xml": strToU8("words ".repeat(500)), stored: [strToU8("as it is"), { level: 0 }] });
const changed = (change: (view: DataView, directory: number) => void): Uint8Array => {
  const copy = Uint8Array.from(whole);
  change(new DataView(copy.buffer), Buffer.from(copy).indexOf("PK\x01\x02", 0, "latin1"));
  return copy;
};

describe("a document's zip", () => {
  test("is read whole, or the entries somebody wants", () => {
    const files = unpackSmallZip(whole, BOUNDS);
    expect(Object.entries(files).map(([name, bytes]) => [name, bytes.length])).toEqual([
      ["a/b.xml", 3000],
      ["stored", 8],
    ]);
    expect(Object.keys(unpackSmallZip(whole, BOUNDS, (name) => name === "stored"))).toEqual(["stored"]);
  });
  test("whose names are those of every object has no entry it does not hold", () => {
    expect(unpackSmallZip(whole, BOUNDS)["constructor"]).toBeUndefined();
  });
  test("may hold no more than its bounds, whatever it claims", () => {
    expect(whyNot(whole, { entries: 1, bytes: 100_000 })).toBe("large");
    expect(whyNot(whole, { entries: 10, bytes: 2000 })).toBe("large");
    // It claims less than it unpacks to (APPNOTE 4.4.9).
    expect(whyNot(changed((view, at) => view.setUint32(at + 24, 100, true)))).toBe("damaged");
  });
  test("is damaged where a sum, a place or a length does not fit", () => {
    expect(whyNot(changed((view, at) => view.setUint32(at + 16, 1, true)))).toBe("damaged");
    expect(whyNot(changed((view, at) => view.setUint32(at + 42, 0xfffffff0, true)))).toBe("damaged");
    expect(whyNot(changed((view, at) => view.setUint32(at + 20, 0x7fffffff, true)))).toBe("damaged");
    for (let length = 0; length < whole.length; length += 7)
      expect([length, whyNot(whole.subarray(0, length))]).toEqual([length, "damaged"]);
  });
});
