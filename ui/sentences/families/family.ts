// Every sentence of a family's page, to be read aloud and changed in one place.
import { count, sizeWords } from "../../../core/words/words.ts";
import { momentOf } from "../../../core/words/dates.ts";

export const SAY = {
  // PastEvent
  undone: "Undone",
  takeItBack: "Take it back",
  lookAtItOrTake: "Look at it, or take it back",

  // FamilyScreen
  weightWeightCodepointsBytes: (weight: number, codepoints: number, bytes: number) =>
    `weight ${weight} · ${count(codepoints, "character")} · ${sizeWords(bytes)}`,
  notListedBecause: (refusal: string) => `Not listed. ${refusal}`,
  listedAsMenuNameOfListed: (menuName: string, within: string, listed: number, seen: number) =>
    `Listed as “${menuName}”${within ? `, ${within}` : ""}${listed > 1 ? ` · seen ${seen} of ${count(listed, "style")}` : ""}`,
  nameIsPartOfThis: (name: string) => `“${name}” is part of this family now.`,
  worthKnowing: "Worth knowing",
  nameSeemsToBeThe: (name: string, reason: string) => `“${name}” seems to be the same family: ${reason}.`,
  addNameTo: (name: string, family: string) => `Add “${name}” to “${family}”`,
  nameIsPartOfThisFamily: (name: string) => `“${name}” is part of this family too.`,
  separateThemAgain: "Separate them again",
  unpin: "Unpin",
  pin: "Pin",
  onTheBench: "On the bench",
  tryYourWordsInIt: "Try your words in it",
  aNewSheetWithIts: "A new sheet with its styles.",
  itsCharacters: "Its characters",
  everyLetterAndSignFound: "Every letter and sign, found by word.",
  styles: "Styles",
  choose: "Choose",
  severalStyles: "several styles",
  tags: "Tags",
  beingReadStillBeingReadUntil: (beingRead: number) =>
    `${count(beingRead, "text")} about its licence still being read; until then nothing here counts as cleared.`,
  inPrograms: "In programs",
  whereItIs: "Where it is",
  stylesHandedOverToBe: (styles: number) => `${count(styles, "style")} handed over; to be carried out there.`,
  onNoDeviceYet: "On no device yet.",
  stylesFolderWordsOnLookedAt: (styles: number, folderWords: string, on: boolean, visible: boolean, observedAt: string) =>
    `${count(styles, "file")}, ${folderWords}, ${on ? (visible ? "on" : "on, but not noticed yet") : "off"} — looked at ${momentOf(observedAt)}`,
  history: "History",
  lookForItInProgramName: (programName: string) => `Look for it in ${programName}`,
  placeOrTakeOff: "Place or take off",
  placeOnADevice: "Place on a device",
  family: "Family",
  openingTheFamily: "Opening the family",

  // LoadByHand
  itsOwnFonts: "Its own fonts",
  keepForNextTime: "Keep for next time",
  otherwiseTheFontIsGone: "Otherwise the font is gone when the program closes.",
  chooseAFontFile: "Choose a font file",
  loadTheWantedStyle: "Load the wanted style",
  loadAFontFile: "Load a font file",
} as const;
