// 'fvar': axes and named instances of a variable font (OpenType specification, "fvar — Font Variations Table").
import { ProblemError } from "../problem.ts";
import { layoutBytes, readLayout } from "./layout.ts";
import type { View } from "./view.ts";

const header = [
  ["majorVersion", "u16"],
  ["minorVersion", "u16"],
  ["axesArrayOffset", "u16"],
  ["reserved", "u16"],
  ["axisCount", "u16"],
  ["axisSize", "u16"],
  ["instanceCount", "u16"],
  ["instanceSize", "u16"],
] as const;

const axisRecord = [
  ["axisTag", "tag"],
  ["minValue", "fixed"],
  ["defaultValue", "fixed"],
  ["maxValue", "fixed"],
  ["flags", "u16"],
  ["axisNameID", "u16"],
] as const;

interface AxisRecord {
  tag: string;
  min: number;
  default: number;
  max: number;
  hidden: boolean;
  nameId: number;
}
interface InstanceRecord {
  nameId: number;
  postScriptNameId: number | undefined;
  /** One value an axis, in the axes' order. */
  coordinates: number[];
}
export interface Fvar {
  axes: AxisRecord[];
  instances: InstanceRecord[];
}

const damaged = (): ProblemError =>
  new ProblemError(
    "fvar-damaged",
    "Its table of variable styles is damaged.",
    "Download it again; if it stays like this, ask whoever made it for a mended copy.",
  );

export function readFvar(view: View): Fvar {
  const head = readLayout(view, header);
  // "axisSize", "instanceSize": 20 bytes an axis, 4 bytes and one number an axis for an instance, 2 more where it is named.
  if (head.axisSize < layoutBytes(axisRecord) || (head.instanceCount > 0 && head.instanceSize < 4 + 4 * head.axisCount)) throw damaged();
  const axes: AxisRecord[] = [];
  for (let i = 0; i < head.axisCount; i++) {
    const axis = readLayout(view, axisRecord, head.axesArrayOffset + i * head.axisSize);
    axes.push({
      tag: axis.axisTag,
      min: axis.minValue,
      default: axis.defaultValue,
      max: axis.maxValue,
      hidden: (axis.flags & 1) !== 0,
      nameId: axis.axisNameID,
    });
  }
  const instances: InstanceRecord[] = [];
  const start = head.axesArrayOffset + head.axisCount * head.axisSize;
  for (let i = 0; i < head.instanceCount; i++) {
    const at = start + i * head.instanceSize;
    const hasPostScriptName = head.instanceSize >= 6 + 4 * head.axisCount;
    instances.push({
      nameId: view.u16(at),
      postScriptNameId: hasPostScriptName ? view.u16(at + 4 + 4 * head.axisCount) : undefined,
      coordinates: axes.map((_, axis) => view.fixed(at + 4 + 4 * axis)),
    });
  }
  return { axes, instances };
}
