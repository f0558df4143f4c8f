// Every sentence of Today, to be read aloud and changed in one place.
import { count } from "../../../core/words/words.ts";

export const SAY = {
  makeABackup: "Make a backup",
  theyAreLookedForOn:
    "They are looked for on your devices and in the downloads that are kept. A disk that is unplugged has to be plugged in first.",
  lookForThem: "Look for them",
  // Parcels
  shelvedOfFamilyIdsShelvedFrom: (shelved: number, familyIds: number, parcels: number) =>
    `${count(shelved, "style")} of ${count(familyIds, "family", "families")} shelved from ${count(parcels, "parcel")}.`,
  placeThem: "Place them",
  inShelveWhatArrived: "In: Shelve what arrived",
  shelveAllShelvable: (shelvable: number) => `Shelve all ${shelvable}`,
  choose: "Choose",
  severalParcels: "several parcels",
  parcelsAlreadyShelved: "Parcels already shelved",
  idsRemoved: (ids: number) => `${count(ids, "parcel")} removed.`,
  chooseParcels: "Choose parcels",
  idsChosen: (ids: number) => `${count(ids, "parcel")} chosen`,
  allTotalToShelve: (total: number) => `All ${total} to shelve`,
  shelve: "Shelve",
  remove: "Remove",

  // Sending
  sendAgain: "Send again",
  dismiss: "Dismiss",
  waiting: "Waiting",
  arriving: "Arriving…",
  sendingName: (name: string) => `Sending ${name}`,
  cancelName: (name: string) => `Cancel ${name}`,

  // Start
  done: "Done",
  threeStepsToBeginWith: "Three steps to begin with",
  bringInADownload: "Bring in a download",
  byTheButtonAboveBuvano: "By the button above: Buvano unpacks and checks it.",
  sayWhereYouWork: "Say where you work",
  thisComputerOrATablet: "This computer or a tablet, and the programs you use there.",
  sayWhere: "Say where",
  placeAFamilyThere: "Place a family there",
  thenBuvanoSaysWhereEach: "Then Buvano says where each program lists it.",
  openYourFamilies: "Open your families",
  skipThis: "Skip this",

  // Tasks
  namesAndMoreMore: (names: string, more: number) => `${names} and ${more} more`,
  lookAtNWithDamaged: (n: number) => `Look at ${count(n, "family", "families")} with damaged files`,
  sayWhatTheLicenceOf: (n: number) => `Say what the licence of ${count(n, "family", "families")} allows`,
  placeNOnADevice: (n: number) => `Place ${count(n, "family", "families")} on a device`,
  programNameDrawsAnotherFontFor: (programName: string, n: number) =>
    `${programName} draws another font for ${count(n, "family", "families")}`,
  reopenProgramNameN: (programName: string, n: number) => `Reopen ${programName}: ${count(n, "family", "families")}`,
  checkNInProgramName: (n: number, programName: string) => `Check ${count(n, "family", "families")} in ${programName}`,
  whatToDoNext: "What to do next",
  onDeviceName: (deviceName: string) => `On ${deviceName}`,

  // Terms
  clearedLicencesThatEnd: "Cleared: Licences that end",
  aTerm: (over: boolean, words: string) => (over ? `Lapsed. ${words}.` : `${words}.`),
  turnOffOnName: (name: string) => `Turn off on ${name}`,
  renew: "Renew",

  // TodayScreen
  unreadStillBeingRead: (unread: number) => `${count(unread, "text")} about licences still being read.`,
  buvanoCanReadMoreNow: "Buvano can read more now: papers and fonts are read again, and what was known of them is shown until then.",
  listsAreBeingUpdatedRows: (rows: number) => `Lists are being updated: ${count(rows, "row")} to go.`,
  canBeTakenBack: "Can be taken back",
  more: (events: number, shown: number) => `${events - shown} more`,
  settings: "Settings",
  chooseArchivesOrFonts: "Choose archives or fonts",
  today: "Today",
  letGoAndItIs: "Let go, and it is taken in.",
  chooseADownloadedArchiveOr: "Choose a downloaded archive, or font files.",
  dropADownloadedArchiveOr: "Drop a downloaded archive or font files here.",
  whatDoesADocumentNeed: "What does a document need?",
  itsFontsAndWhereEach: "Its fonts, and where each one is",
  andMoreAreWaitingTo: (outgoing: number, shownAtFirst: number) => `And ${outgoing - shownAtFirst} more are waiting to be sent.`,
  lookingForParcels: "Looking for parcels",
  nothingHasArrivedYet: "Nothing has arrived yet.",
  aDownloadIsUnpackedFor:
    "A download is unpacked for you: fonts, licence texts, previews and leftovers are told apart, and each font is checked before it goes anywhere.",
} as const;
