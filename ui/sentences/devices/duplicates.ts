// Every sentence of duplicates, to be read aloud and changed in one place.
import { count } from "../../../core/words/words.ts";

export const SAY = {
  theSameFileInSeveral: "The same file in several places",
  severalVersionsOfOneStyle: "Several versions of one style",
  oneStyleInTwoFormats: "One style in two formats",
  differentFontsUnderOneName: "Different fonts under one name",
  onlyOneIsOn: "Only one is on",
  keepTheOneInWhere: (where: string, reason: string) => `Keep the one in ${where}: ${reason}`,
  whichCopyOfFamilyStyle: (family: string, style: string) => `Which copy of ${family}, ${style} to keep`,
  noVersion: "no version",
  aCopy: (keep: boolean, fileName: string) => (keep ? `Keep: ${fileName}` : `Remove: ${fileName}`),
  whereACopyIs: (where: string, on: boolean, recommended: boolean) =>
    `${where}, ${on ? "on" : "off"}${recommended ? " — recommended" : ""}`,
  itCameWithTheDevice: "It came with the device and cannot be taken off.",
  planTurningTheOtherOff: "Plan turning the other off",
  planTakingTheOtherOff: "Plan taking the other off",
  duplicatesOnName: (name: string) => `Duplicates on ${name}`,
  duplicates: "Duplicates",
  nothingChangesYetThePlan: "Nothing changes yet: the plan that follows shows every step first, and can be taken back.",
  reviewRemovingAll: (all: number) => `Review removing ${count(all, "duplicate")}`,
  comparingTheCopies: "Comparing the copies",
  noDuplicates: "No duplicates",
  everyNameStandsForOne: "Every name stands for one font on this device.",
} as const;
