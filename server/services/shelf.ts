// The shelf in memory: families with what lists and filters need of their styles. Only families that changed are read again.
import { scriptsOf, type Script } from "../../core/coverage/scripts.ts";
import { isRightToLeftOnly, ownSample } from "../../core/coverage/text.ts";
import { familyKey, representative } from "../../core/family/group.ts";
import { kindsOf, type FaceKind } from "../../core/family/kind.ts";
import type { Inspection, StatedLicence } from "../../core/inspect.ts";
import type { Context } from "../context.ts";
import type { FamilyRow, StyleRow } from "../store/library.ts";

/** A style with the part of its record that lists need. */
export interface ShelfStyle extends Omit<StyleRow, "record"> {
  record: Pick<Inspection, "family" | "style" | "fullName" | "weight" | "width" | "italic" | "verdict" | "container">;
}
export interface ShelfFamily extends FamilyRow {
  /** The name as it is searched for. */
  key: string;
  styles: ShelfStyle[];
  /** The style that stands for the family. */
  main: ShelfStyle;
  /** The characters of `main`. */
  ranges: readonly number[];
  rightToLeft: boolean;
  sample: string;
  scripts: Script[];
  kinds: FaceKind[];
  /** What its fonts say of their licence, each text once. */
  stated: StatedLicence[];
}

export class Shelf {
  private readonly context: Context;
  private readonly kept = new Map<number, ShelfFamily>();
  private order: ShelfFamily[] = [];
  private seenVersion = -1;

  constructor(context: Context) {
    this.context = context;
  }

  /** All families in order of their names. */
  families(): readonly ShelfFamily[] {
    const { library } = this.context;
    if (this.seenVersion === library.version) return this.order;
    const changed = library.takeChanged();
    const rows = library.families();
    const there = new Set(rows.map((row) => row.id));
    for (const id of this.kept.keys()) if (!there.has(id)) this.kept.delete(id);
    const groups = changed === "all" || this.kept.size === 0 ? this.everything() : undefined;
    for (const row of rows) {
      const known = this.kept.get(row.id);
      if (known && changed !== "all" && !changed.has(row.id)) continue;
      const family = toShelf(row, groups?.get(row.id) ?? library.stylesOf(row.id));
      if (family) this.kept.set(row.id, family);
    }
    this.order = rows.flatMap((row) => this.kept.get(row.id) ?? []);
    this.seenVersion = library.version;
    return this.order;
  }
  family(id: number): ShelfFamily | undefined {
    this.families();
    return this.kept.get(id);
  }

  private everything(): Map<number, StyleRow[]> {
    const groups = new Map<number, StyleRow[]>();
    for (const style of this.context.library.allStyles()) {
      const group = groups.get(style.familyId);
      if (group) group.push(style);
      else groups.set(style.familyId, [style]);
    }
    return groups;
  }
}

function toShelf(row: FamilyRow, styles: readonly StyleRow[]): ShelfFamily | undefined {
  const best = representative(styles.map((style) => ({ ...style.record, row: style })));
  if (!best) return undefined;
  const slim = styles.map((style): ShelfStyle => {
    const { family, style: name, fullName, weight, width, italic, verdict, container } = style.record;
    return { ...style, record: { family, style: name, fullName, weight, width, italic, verdict, container } };
  });
  const { ranges } = best.row.record;
  return {
    ...row,
    key: familyKey(row.name),
    styles: slim,
    main: slim.find((style) => style.id === best.row.id)!,
    ranges,
    rightToLeft: isRightToLeftOnly(ranges),
    sample: ownSample(ranges),
    scripts: scriptsOf(ranges),
    kinds: kindsOfFamily(best.row, styles),
    stated: [...new Map(styles.map((style) => [JSON.stringify(style.record.stated), style.record.stated])).values()],
  };
}

/** What its main style is, and whether any other is variable or coloured. */
function kindsOfFamily(main: StyleRow, styles: readonly StyleRow[]): FaceKind[] {
  const { axes, colour } = main.record;
  const any = {
    ...main.record,
    axes: axes.length > 0 ? axes : (styles.find((style) => style.record.axes.length > 0)?.record.axes ?? []),
    colour: colour.length > 0 ? colour : (styles.find((style) => style.record.colour.length > 0)?.record.colour ?? []),
  };
  return kindsOf(any);
}
