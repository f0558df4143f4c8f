// Every sentence of what all screens share, to be read aloud and changed in one place.
import { characters, count, numberWords } from "../../core/words/words.ts";
import { dayOf } from "../../core/words/dates.ts";

export const SAY = {
  // form
  charactersLeft: (left: number) => `${characters(left)} left.`,

  // api
  buvanosServerCannotBeReached: "Buvano's server cannot be reached.",
  checkThatItIsStill: "Check that it is still running; what you had is unchanged.",
  sendingWasCancelled: "Sending was cancelled.",
  dropItAgainWhenYou: "Drop it again when you want it.",
  theServerAnsweredWithSomething: "The server answered with something unexpected.",
  reloadThePageAndTry: "Reload the page and try again.",

  // keys
  findInThisList: "Find in this list",
  doWhatIsNextOn: "Do what is next on this screen",
  chooseSeveral: "Choose several",
  undoWhatWasJustDone: "Undo what was just done",
  goBack: "Go back",

  // Status
  youCanGoAheadThe: "You can go ahead; the family's clearance shows what was read, and takes a licence.",
  tryAgain: "Try again",

  // Fallen
  thisScreenCouldNotBe: "This screen could not be shown because of a fault in Buvano.",
  tryItAgainWhatYou: "Try it again; what you had is unchanged.",

  // Sheet
  close: "Close",

  // KeysSheet
  n1To5: "1 to 5",
  theFiveTabsInTheir: "The five tabs, in their order",
  thisList: "This list",
  theNextControl: "The next control",
  arrows: "Arrows",
  withinListsTheBoardAnd: "Within lists, the board and groups of answers",
  chooseAnEntryOfA: "Choose an entry of a list; with Shift all from the last one to this",
  ctrlA: "Ctrl A",
  chooseAllThatFitOnce: "Choose all that fit, once you choose",
  closeASheetOrStop: "Close a sheet, or stop choosing",
  keys: "Keys",
  singleKeys: "Single keys",
  useSingleKeys: "Use single keys",
  always: "Always",

  // ActingBar
  doneOfTotalDone: (done: number, total: number) => `${numberWords(done)} of ${numberWords(total)} done`,

  // UndoBar
  undo: "Undo",
  undoneSentence: (what: string) => `Undone: ${what}`,
  dismiss: "Dismiss",

  // Shell
  buvanoIsOpening: "Buvano is opening…",
  today: "Today",
  families: "Families",
  devices: "Devices",
  sightings: "Sightings",
  bench: "Bench",
  nextWhatYouHaveCan: (next: string) => `${next} What you have can be read; nothing new is kept meanwhile.`,
  skipToTheContent: "Skip to the content",
  main: "Main",
  buvano: "Buvano",

  // Screen
  titleBuvano: (title: string) => `${title} · Buvano`,
  back: "Back",

  // cut
  cutSheetColoursFromFamilies: (colours: number, families: string, at: string) =>
    `Cut sheet, ${count(colours, "colour")}, from ${families}, ${dayOf(at)}`,

  // Marks
  seen: "Seen",
  notCheckedYet: "Not checked yet",
  reopen: "Reopen",
  loadByHand: "Load by hand",
  swapped: "Swapped",
  off: "Off",
  lapsed: "Lapsed",
  notHere: "Not here",
  seenSeenOfListed: (seen: number, listed: number) => `Seen ${seen} of ${listed}`,
  notThere: "Not there",
  askedFor: "Asked for",
  faked: "Faked",
  inIt: "In",
  sound: "Sound",
  cleared: "Cleared",
  placed: "Placed",
  trailSaid: (said: string) => `Trail. ${said}`,

  // devices
  designProgram: "design program",
  officeProgram: "office program",
  videoProgram: "video program",
  cuttingProgram: "cutting program",
  notesProgram: "notes program",
  browserBasedEditor: "browser-based editor",
  readsFontsWhenItStarts: "reads fonts when it starts",
  noticesNewFontsByItself: "notices new fonts by itself",
  readsFontsWhenADocument: "reads fonts when a document is opened",
  listsOnlyWhatIsLoaded: "lists only what is loaded into it by hand",
  practiceDevice: "Practice device",
  theComputerBuvanoRunsOn: "The computer Buvano runs on",
  pairedOverTheNetwork: "Paired over the network",
  forMe: "for me",
  forEveryone: "for everyone",
  inAProfile: "in a profile",
  cameWithTheDevice: "came with the device",
  inAProgramsOwnStore: "in a program's own store",
  isGone: "is gone",
  isAnotherFileNow: "is another file now",
  wasTurnedOn: "was turned on",
  wasTurnedOff: "was turned off",
  unseenNotNoticedYet: (unseen: number) => `${unseen} not noticed yet`,
  changesMadeOutsideBuvano: (externalChanges: number) => `${count(externalChanges, "change")} made outside Buvano`,

  // ChooseBar
  whatIsChosen: "What is chosen",
  stopChoosing: "Stop choosing",

  // ForWhom
  forWhom: "For whom",
  forMe2: "For me",
  onlyThisAccountsProgramsFind: "Only this account's programs find it.",
  forEveryone2: "For everyone",

  // ScriptWords
  wordsInOtherScripts: "Words in other scripts",
  shownWhereAFontDoes: "Shown where a font does not draw the words above.",
  lookingWhichScriptsYourFamilies: "Looking which scripts your families draw",
  yourFamiliesDrawLatinLetters: "Your families draw Latin letters and signs only.",

  // WordsBar
  yourOwnWords: "Your own words",
  typeYourOwnWords: "Type your own words",
  sizeOfTheWords: "Size of the words",
  pixels: "pixels",
  sizePx: (size: number) => `${size} px`,

  // Specimen
  typeYourOwnWordsAbove: "Type your own words above",
  thisBrowserWillNotDraw: "This browser will not draw the font.",
  shownInYourWordsIn: (scriptNames: string) => `Shown in your words in ${scriptNames}.`,
  shownInCharactersOfIts: "Shown in characters of its own: it does not draw your words.",
  someOfYourCharactersAre: "Some of your characters are missing; another font stands in for them.",

  // Clearance
  beingRead: "Being read",
  letItCountAgain: "Let it count again",
  wrongLeaveItOut: "Wrong? Leave it out",
  itDoesNotCount: (aside: string, where: string, again: number) =>
    `It does not count: ${aside} It stands in ${where}.${again > 0 ? ` The same stands in ${count(again, "other place")}.` : ""}`,
  itSaysSo: (answer: string, licence: string | null, where: string, again: number) =>
    `${answer}${licence === null ? "" : `, by the licence ${licence}`}. It stands in ${where}.${again > 0 ? ` The same stands in ${count(again, "other place")}.` : ""}`,
  hideWhatDoesNotCount: "Hide what does not count",
  alsoSaidAndNotCounted: (also: number) => `Also said, and not counted: ${also}`,
  itsPapersContradictOneAnother: "Its papers contradict one another. The stricter one counts until you decide.",
  moreMoreStatementsOfIts: (more: number) => `${more} more statements of its papers speak of this use.`,

  // ReadPaper
  reading: "Reading",
  itIsVeryLongOf: "It is very long: of the pages between its beginning and its end, not all were read.",
  readIt: "Read it",

  // Findings
  hideRemarks: "Hide remarks",

  // CopyButton
  copied: "Copied",

  // PlaceMark
  here: "Here",
  hereOff: "Here, off",
  onTheShelf: "On the shelf",
  inAParcel: "In a parcel",
  otherStylesOnly: "Other styles only",
  nowhere: "Nowhere",
  cannotTell: "Cannot tell",

  // BoardGrid
  nameInOnDeviceNameCellWords: (name: string, name2: string, deviceName: string, cellWords: string) =>
    `${name} in ${name2} on ${deviceName}: ${cellWords}`,
  style: "Style",
  family: "Family",

  // cut
  thisCutTookLongerThan: "This cut took longer than a minute and was ended.",
  cutFewerLettersAtOnce: "Cut fewer letters at once, or choose a plainer style.",
  theCutStoppedBeforeIt: "The cut stopped before it was done.",
  reloadThePageIfIt: "Reload the page; if it stops again, cut fewer letters at once or choose a plainer style.",

  // GlyphCells
  glyphGlyph: (glyph: number) => `Glyph ${glyph}`,

  // plans
  copy: "Copy",
  alreadySo: "Already so",
  leaveOut: "Leave out",
  takeOff: "Take off",
  turnOn: "Turn on",
  turnOff: "Turn off",
  leftOut: "Left out",
  takenOff: "Taken off",
  turnedOn: "Turned on",
  turnedOff: "Turned off",
  placeIt: "Place it",
  placeItAnyway: "Place it anyway",
  keepIt: "Keep it",
  leaveItOut: "Leave it out",
  turnItOn: "Turn it on",
  moveItHere: "Move it here",
  placeItAsWell: "Place it as well",
  replaceIt: "Replace it",
  takeItOff: "Take it off",
  leaveItAlone: "Leave it alone",
  turnedOffThere: "Turned off there",
  inAnotherFolder: "In another folder",
  olderVersionThere: "Older version there",
  newerVersionThere: "Newer version there",
  otherFormatThere: "Other format there",
  anotherFontOfThisName: "Another font of this name",
  oneNameSeveralDrawings: "One name, several drawings",
  needYou: (items: number) => `${count(items, "font")} ${items === 1 ? "needs" : "need"} you`,
  notInYourLibrary: "Not in your library",
  wantedTwice: "Wanted twice",
  damaged: "Damaged",
  notCleared: "Not cleared",
  formatNotTaken: "Format not taken",
  noRoom: "No room",
  onlyOnThisDevice: "Only on this device",
  offOnTheOther: "Off on the other",
  placeNamesOnDevice: (names: string, device: string) => `Place ${names} on ${device}`,
  placedOnDevice: (device: string) => `Placed on ${device}`,
  place: "Place",
  takeNamesOffDevice: (names: string, device: string) => `Take ${names} off ${device}`,
  takenOffDevice: (device: string) => `Taken off ${device}`,
  turnOnNamesOnDevice: (names: string, device: string) => `Turn on ${names} on ${device}`,
  turnedOnNamesOnDevice: (names: string, device: string) => `Turned on: ${names}, on ${device}`,
  turnOffNamesOnDevice: (names: string, device: string) => `Turn off ${names} on ${device}`,
  turnedOffNamesOnDevice: (names: string, device: string) => `Turned off: ${names}, on ${device}`,
  makeDeviceLikeFrom: (device: string, from: string) => `Make ${device} like ${from}`,
  deviceIsLikeFromNow: (device: string, from: string) => `${device} is like ${from} now`,
  change: "Change",
  removeDuplicatesFromDevice: (device: string) => `Remove duplicates from ${device}`,
  duplicatesRemovedFromDevice: (device: string) => `Duplicates removed from ${device}`,
  removeDuplicates: "Remove duplicates",
  takenBack: "Taken back",
  beforeNowFontsAfterAfter: (before: string, fontsAfter: number) => `${before} now, ${fontsAfter} after.`,
  beforeBeforeNowFontsAfter: (before: string, fontsAfter: number) => `${before} before, now ${fontsAfter}.`,
} as const;
