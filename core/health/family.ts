// Checks of a family as a whole: names that clash, buttons that lead nowhere or to the wrong file.
import { areTwins, type Kin } from "../family/kinship.ts";
import { familyKey } from "../family/group.ts";
import { finding } from "./check.ts";
import type { Finding } from "./finding.ts";

/** What the checks look at. */
export interface Relative extends Kin {
  fullName: string;
  postScriptName: string;
  legacyFamily: string;
  legacyStyle: string;
  weight: number;
  width: number;
  bold: boolean;
  italic: boolean;
  symbol: boolean;
}

const twice = <T>(all: readonly T[], key: (one: T) => string): T[][] => {
  const groups = new Map<string, T[]>();
  for (const one of all) groups.set(key(one), [...(groups.get(key(one)) ?? []), one]);
  return [...groups.values()].filter((group) => group.length > 1);
};

/** The four places bold and italic buttons reach. */
const button = (face: Relative): string => `${face.bold ? "bold" : "regular"}${face.italic ? " italic" : ""}`;
const BUTTON_STYLES = /^(regular|bold|italic|bold italic|oblique|bold oblique|normal|roman|book|plain)$/i;

/** Findings on `faces`, one family's styles. Twins of one style do not clash: only one of them is taken. */
export function examineFamily(faces: readonly Relative[]): Finding[] {
  const styles = faces.filter((face, i) => !faces.slice(0, i).some((other) => areTwins(other, face) || sameFace(other, face)));
  const named = styles.filter((face) => face.axes.length === 0);
  const found: Finding[] = [];
  for (const [first] of twice(named, (face) => familyKey(face.fullName)))
    found.push(finding("clash-full-name", `Two of its styles are both called “${first!.fullName}”.`));
  for (const [first] of twice(
    named.filter((face) => face.postScriptName !== ""),
    (face) => face.postScriptName,
  ))
    found.push(finding("clash-postscript", `Two of its styles share the PostScript name “${first!.postScriptName}”.`));
  const fours = twice(named, (face) => familyKey(face.legacyFamily));
  for (const four of [...fours, ...named.filter((face) => !fours.some((group) => group.includes(face))).map((face) => [face])]) {
    for (const group of twice(four, button)) {
      const names = group.map((face) => face.style);
      if (new Set(names).size > 1)
        found.push(finding("clash-buttons", `${names.join(" and ")} answer to the same bold and italic buttons.`));
    }
    for (const face of four) {
      const said = /bold/i.test(face.legacyStyle);
      if (BUTTON_STYLES.test(face.legacyStyle) && said !== face.bold)
        found.push(
          finding("buttons-flags", `${face.fullName} is named ${said ? "bold" : "regular"} and marked ${said ? "regular" : "bold"}.`),
        );
    }
    const regular = four.find((face) => !face.bold && !face.italic && face.weight <= 500);
    if (
      regular &&
      named.length > 1 &&
      !four.some((face) => face.bold) &&
      named.every((face) => familyKey(face.legacyFamily) === familyKey(four[0]!.legacyFamily))
    )
      found.push(finding("bold-faked", `“${regular.legacyFamily}” comes without a bold.`));
  }
  return found;
}

const sameFace = (a: Relative, b: Relative): boolean => a.sha256 === b.sha256 && a.fullName === b.fullName;
