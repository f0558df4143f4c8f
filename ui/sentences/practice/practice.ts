// Every sentence of the practice room, to be read aloud and changed in one place.
import { count } from "../../../core/words/words.ts";

export const SAY = {
  practiceDevicesAreHere: (names: string, programs: number) =>
    `${names} are among your devices now, with ${count(programs, "program")} to try fonts in. They are simulated.`,

  // PracticeFaults
  cannotBeReached: "Cannot be reached",
  turnedOffOrTakenAlong: "Turned off, or taken along.",
  nothingMayBeWritten: "Nothing may be written",
  itsFontFoldersAreRead: "Its font folders are read-only.",
  full: "Full",
  thereIsNoRoomLeft: "There is no room left on it.",
  openProgramsHoldOnTo: "Open programs hold on to their fonts",
  aFontInUseCannot: "A font in use cannot be taken off.",
  forPractising: "For practising",
  itsPasscodeIsPasscode: (passcode: string, any: boolean) =>
    `Its passcode is ${passcode}. ${any ? "It has been made difficult:" : "You can make it difficult and see what happens."}`,
  makeItDifficult: "Make it difficult",

  // PracticeMachine
  whatTheMachineCutsOf: (it: string) => `What the machine cuts of ${it}`,
  cleanNoLineCrossesAnother: "Clean: no line crosses another.",
  theBladeCrossesItsOwn: (crossed: number) => `The blade crosses its own lines at ${count(crossed, "place")}.`,
  itOutlinesLengthMmMmTo: (it: string, outlines: number, lengthMm: string, widthMm: string, heightMm: string) =>
    `${it}: ${count(outlines, "outline")}, ${lengthMm} mm to cut, ${widthMm} × ${heightMm} mm.`,
  joinTheLettersOnThe: "Join the letters on the bench with Cut, and give that file to this program.",
  theTextOnThePage: "The text on the page",
  whatItsMachineCuts: "What its machine cuts",
  chooseACutFileSvg: "Choose a cut file (SVG)",
  cutTheTextOnThe: "Cut the text on the page",
  cutAFileSvg: "Cut a file (SVG)",
  thisProgramSendsOutlinesAs: "This program sends outlines as they stand; nothing is joined.",

  // PracticeScreen
  fontIsNotAmongThis: (font: string) => `“${font}” is not among this program's fonts.`,
  drawnWithAsked: (asked: string) => `Drawn with ${asked}.`,
  othersStandInForWhat: (others: string, n: number) => `${others} ${n === 1 ? "stands" : "stand"} in for what is missing, in red-brown.`,
  noFontHereHasBoxes: (boxes: string) => `No font here has: ${boxes}`,
  theFamilyHasNoSuch: (faked: string) => `The family has no such style: ${faked} is faked by the program.`,
  font: "Font",
  menuInTheList: (menu: number) => `${menu} in the list`,
  fontBox: "Font box",
  typeTheFirstLetters: "Type the first letters",
  fontList: "Font list",
  noFontBeginsWithTyped: (typed: string) => `No font begins with “${typed}”. Use the name anyway.`,
  thePageTextSetIn: (text: string, font: string) => `The page: ${text}, set in ${font}`,
  textOnThePage: "Text on the page",
  bold: "Bold",
  italic: "Italic",
  style: "Style",
  exportAPdf: "Export a PDF",
  exportAndGiveAsEvidence: "Export and give as evidence",
  cannotTell: "Cannot tell",
  expectedInTheListAs: "Expected in the list as",
  wouldBeListedAs: "Would be listed as",
  practiceProgram: "Practice program",
  aSimulatedProgram: (kind: string, deviceName: string, reads: string) => `A simulated ${kind} on ${deviceName}. It ${reads}.`,
  closeNameCompletely: (name: string) => `Close ${name} completely`,
  openName: (name: string) => `Open ${name}`,
  findingTheProgram: "Finding the program",
  nameIsClosed: (name: string) => `${name} is closed.`,
  whenItOpensItReads: (deviceName: string) => `When it opens, it reads the fonts that are on ${deviceName} at that moment.`,

  // TabletRoomScreen
  wasLoadedAndWaitsTo: "Was loaded and waits to be allowed",
  allowedNotInstalledYet: "Allowed, not installed yet",
  installed: "Installed",
  stateWordsFromOrganisationDescription: (stateWords: string, organisation: string, description: string) =>
    `${stateWords}. From ${organisation}. ${description}`,
  theTabletsPasscode: "The tablet's passcode",
  install: "Install",
  remove: "Remove",
  notNow: "Not now",
  allow: "Allow",
  install2: "Install…",
  remove2: "Remove…",
  refuse: "Refuse",
  deviceNameProfiles: (deviceName: string) => `${deviceName}: profiles`,
  profiles: "Profiles",
  aSimulatedTabletsSettingsIts: (passcode: string) => `A simulated tablet's settings. Its passcode is ${passcode}.`,
  openingTheTabletsSettings: "Opening the tablet's settings",
  noProfiles: "No profiles",
  placeAFamilyOnThis: "Place a family on this tablet; its profile arrives here.",
  waiting: "Waiting",
} as const;
