// 'STAT': which named points on which axes make up a style (OpenType specification, "STAT — Style Attributes Table").
import { readLayout } from "./layout.ts";
import type { View } from "./view.ts";

const header = [
  ["majorVersion", "u16"],
  ["minorVersion", "u16"],
  ["designAxisSize", "u16"],
  ["designAxisCount", "u16"],
  ["designAxesOffset", "u32"],
  ["axisValueCount", "u16"],
  ["offsetToAxisValueOffsets", "u32"],
] as const;

const axisRecord = [
  ["axisTag", "tag"],
  ["axisNameID", "u16"],
  ["axisOrdering", "u16"],
] as const;

/** Axis value flags: the name is left out of a style's name when another one stands there. */
const ELIDABLE = 0x0002;

interface StatValue {
  tag: string;
  nameId: number;
  /** The nominal value on the axis. */
  value: number;
  elidable: boolean;
}
export interface Stat {
  axes: { tag: string; nameId: number; ordering: number }[];
  values: StatValue[];
}

/** Reads axes and axis values of formats 1 to 4; a format 4 value of several axes gives one entry an axis. */
export function readStat(view: View): Stat {
  const head = readLayout(view, header);
  const axes = Array.from({ length: head.designAxisCount }, (_, i) => {
    const axis = readLayout(view, axisRecord, head.designAxesOffset + i * head.designAxisSize);
    return { tag: axis.axisTag, nameId: axis.axisNameID, ordering: axis.axisOrdering };
  });
  const values: StatValue[] = [];
  for (let i = 0; i < head.axisValueCount; i++) {
    const at = head.offsetToAxisValueOffsets + view.u16(head.offsetToAxisValueOffsets + 2 * i);
    const format = view.u16(at);
    const add = (axisIndex: number, value: number, flagsAt: number, nameAt: number) => {
      const axis = axes[axisIndex];
      if (axis) values.push({ tag: axis.tag, nameId: view.u16(nameAt), value, elidable: (view.u16(flagsAt) & ELIDABLE) !== 0 });
    };
    // Formats 1 to 3: axis, flags, name, nominal value; what follows in 2 and 3 is the value's range or its bold.
    if (format >= 1 && format <= 3) add(view.u16(at + 2), view.fixed(at + 8), at + 4, at + 6);
    if (format === 4) {
      const count = view.u16(at + 2);
      for (let k = 0; k < count; k++) add(view.u16(at + 8 + 6 * k), view.fixed(at + 10 + 6 * k), at + 4, at + 6);
    }
  }
  return { axes, values };
}
