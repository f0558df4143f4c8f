// Every sentence of a device's page, to be read aloud and changed in one place.
import { begun, count } from "../../../core/words/words.ts";
import { momentOf } from "../../../core/words/dates.ts";

export const SAY = {
  // DeviceActs
  chooseFonts: "Choose fonts",
  filesChosen: (files: number) => `${count(files, "font")} chosen`,
  allTotal: (total: number) => `All ${total}`,
  turnOff: "Turn off",
  turnOn: "Turn on",
  takeOff: "Take off",

  // DeviceScreen
  theLicenceOfLapsedHas: (lapsed: number) => `The licence of ${count(lapsed, "font")} has ended: renew it, or turn the font off.`,
  unseenNotNoticedByThe: (unseen: number) => `${count(unseen, "font")} not noticed by the device yet: look again, and it will be.`,
  theLibraryHasANewer: (outdated: number) => `The library has a newer version of ${count(outdated, "font")}: place it again.`,
  fontsSomeOff: (all: number, off: number) => (off > 0 ? `${count(all, "font")}, ${off} turned off` : count(all, "font")),
  trouble: "Trouble",
  severalFilesGoByThe: "Several files go by the same name; programs may show either. Compare them and keep one.",
  changedOutsideBuvano: "Changed outside Buvano",
  fileNameFolderWordsNoticedAt: (fileName: string, folderWords: string, at: string) =>
    `${fileName}, ${folderWords}, noticed ${momentOf(at)}`,
  andMore: (externalChanges: number) => `And ${externalChanges - 30} more.`,
  takeAdoptableIntoTheLibrary: (adoptable: number) => `Take ${count(adoptable, "font")} into the library`,
  iHaveSeenThis: "I have seen this",
  aPlacedFile: (fileName: string, folder: string, on: boolean, inTheLibrary: boolean) =>
    `${fileName}, ${folder}, ${on ? "on" : "off"}${inTheLibrary ? "" : " — not in the library"}`,
  doneHereLately: "Done here lately",
  more: (events: number, shown: number) => `${events - shown} more`,
  device: "Device",
  lookedAtObservedAt: (observedAt: string) => `Looked at ${momentOf(observedAt)}`,
  lookAgain: "Look again",
  makeItLikeAnother: "Make it like another",
  lookingAtTheDevice: "Looking at the device",
  beforeBeforeNowAfterFound: (before: number, after: number, found: number) =>
    `${count(before, "placed font")} before, now ${after}. ${found === 0 ? "Nothing happened meanwhile." : `${count(found, "change")} found.`}`,
  waitingToBeDoneThere: "Waiting to be done there",
  theTabletItself: "The tablet itself",
  openItsSettings: "Open its settings",
  profilesThatWaitAndThose: "Profiles that wait, and those it has.",
  programs: "Programs",
  aProgram: (practice: boolean, kind: string, reads: string) => `${begun(practice ? `practice ${kind}` : kind)}, ${reads}`,
  nameAProgram: "Name a program",
  sayHowItTreatsFonts: "Say how it treats fonts, and Buvano says where each will be listed.",
  cameWithTheDevice: "Came with the device",
  choose: "Choose",
  severalFonts: "several fonts",
  placedFonts: "Placed fonts",
  findAmongThem: "Find among the placed fonts",
  familyStyleOrFile: "Family, style or file",
  foundOfAll: (found: number | undefined, all: string) => (found === undefined ? all : `${found} of ${all}`),
  noFontHereIsCalled: (q: string) => `No font placed here is called “${q}”. Try fewer words.`,
  looking: "Looking",
  noneYetOpenAFamily: "None yet. Open a family and place it here.",
} as const;
