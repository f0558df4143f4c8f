// Reads a table from a list of its fields that stands in the code as it stands in the specification.
import type { View } from "./view.ts";

const sizes = { u8: 1, u16: 2, i16: 2, u32: 4, i32: 4, fixed: 4, longDateTime: 8, tag: 4 } as const;
type Kind = keyof typeof sizes;
type Value<K extends Kind> = K extends "tag" ? string : number;

/** The fields of a table in the order they are stored. */
export type Layout = readonly (readonly [name: string, kind: Kind])[];
export type Fields<L extends Layout> = { [F in L[number] as F[0]]: Value<F[1]> };

/** How many bytes a layout takes. */
export const layoutBytes = (layout: Layout): number => layout.reduce((sum, [, kind]) => sum + sizes[kind], 0);

/** Reads `layout` from `view`, starting at byte `at`. Throws a `ProblemError` when the bytes run out. */
export function readLayout<const L extends Layout>(view: View, layout: L, at = 0): Fields<L> {
  const fields: Record<string, string | number> = {};
  for (const [name, kind] of layout) {
    fields[name] = view[kind](at);
    at += sizes[kind];
  }
  return fields as Fields<L>;
}
