// Every sentence of matching a picture, to be read aloud and changed in one place.
import { count } from "../../../core/words/words.ts";

export const SAY = {
  // AlikeRows
  theSameDesignItSeems: "The same design, it seems",
  sameManner: "Same manner",
  nearestAreItsStyleAnd: (style: string, ofStyle: string) => `Nearest are its ${style} and this one’s ${ofStyle}.`,
  compare: "Compare",
  familyWithOnTheBench: (one: string, other: string) => `${one} with ${other} on the bench`,

  // AlikeDrawer
  whatLooksLikeIt: "What looks like it",
  comparingLetters: "Comparing letters",
  allFamiliesByWhatThey: (families: number) => `All ${families}, by what they are cleared for`,
  itsLettersAreStillBeing: "Its letters are still being measured; look again in a moment.",
  nothingInYourLibraryLooks: "Nothing in your library looks like it.",

  // MatchesScreen
  remove: "Remove",
  picturePng: "Picture.png",
  theMatchOfNameWas: (name: string) => `The match of “${name}” was removed.`,
  aPictureOfLettering: "A picture of lettering",
  matchAPicture: "Match a picture",
  whichOfYourFontsIs: "Which of your fonts is on that board, label or packet? And what is like it?",
  dropItHere: "Drop it here",
  chooseOrTakeAPicture: "Choose or take a picture",
  fetchingYourMatches: "Fetching your matches",
  unmeasuredStillBeingMeasuredThey: (unmeasured: number) =>
    `${count(unmeasured, "style")} still being measured; they are found once that is done.`,
  noPictureYet: "No picture yet.",
  takeOrChooseAPicture:
    "Take or choose a picture of the lettering, paste one, or drop it here. One line, large and sharp, answers best. It is looked for among your library, your parcels and what your devices have; nothing leaves this computer.",

  // Candidates
  familyStyleLaidOverThe: (family: string, style: string, shown: number) => `${family} ${style} laid over the picture, ${shown} percent`,
  picture: "Picture",
  howMuchOfTheFont: "How much of the font shows over the picture",
  percent: "percent",
  font: "Font",
  drawsTheseWordsLikeDrawnLike: (drawnLike: string) => `Draws these words like ${drawnLike}.`,
  openTheFamily: "Open the family",
  openTheParcel: "Open the parcel",
  openTheDevice: "Open the device",
  likeliestFonts: "Likeliest fonts",
  amongAmongStyles: (among: number) => `among ${count(among, "style")}`,
  showMore: (candidates: number, shownAtFirst: number) => `Show ${candidates - shownAtFirst} more`,

  // FramePicture
  leftTop: "Left top",
  rightTop: "Right top",
  rightBottom: "Right bottom",
  leftBottom: "Left bottom",
  thePictureWithItsFrame: "The picture, with its frame",
  cornerWordsCornerAtXY: (cornerWords: string | null | undefined, x: number, y: number) =>
    `${cornerWords} corner, at ${Math.round(x)}, ${Math.round(y)}. Arrow keys move it.`,

  // LetterCells
  theseLettersHangTogetherSo: "These letters hang together, so the line is compared as a whole.",
  lettersAsTheyWereRead: "Letters as they were read",
  letterNotRecognised: (i: number) => `Letter ${i + 1}, not recognised`,
  letterLetter: (i: number, letter: string, unsure: boolean) => `Letter ${i + 1}: ${letter}${unsure ? ", not sure" : ""}`,

  // MatchScreen
  frame: "Frame",
  dragAFrameAroundOne: "Drag a frame around one line, or tap a dashed one. Corners can be dragged.",
  fourCorners: "Four corners",
  forWordsSeenFromThe: "For words seen from the side or on a curve: drag each corner to a corner of the words.",
  brush: "Brush",
  brushOverMarksThatAre: "Brush over marks that are not letters.",
  letterColour: "Letter colour",
  tapALetterToSay: "Tap a letter to say which colour the letters have.",
  theLineStandsUpsideDown: "The line stands upside down; it is read turned.",
  theLineIsMirroredIt: "The line is mirrored; it is read turned over.",
  theFrameWasStraightened: (degrees: number) =>
    `The letters stood askew in the frame by ${Math.abs(degrees).toFixed(1)}°; they were read straightened.`,
  whichFontIsThis: "Which font is this?",
  comparingDoneOfIt: (done: number, it: number) => `Comparing: ${done} of ${it}`,
  lookingThroughYourFonts: "Looking through your fonts",
  stop: "Stop",
  compareChosenOnTheBench: (chosen: number) => `Compare ${chosen} on the bench`,
  tryItOnTheBench: "Try it on the bench",
  findTheFont: "Find the font",
  fetchingThePicture: "Fetching the picture",
  whatTouchingDoes: "What touching does",
  noLineOfLetteringWas: "No line of lettering was found by itself. Draw a frame around one.",
  takeBackAStrokeStrokes: (strokes: number) => `Take back a stroke (${strokes})`,
  anyColourNotColour: (colour: string) => `Any colour, not ${colour}`,
  whatItReads: "What it reads",
  readingTheLetters: "Reading the letters",
  readingItAgain: "Reading it again…",
  theWordsInTheFrame: "The words in the frame",
  typeThemOrPutSingle: "Type them, or put single letters right: known words make the answer much surer.",
  itReadsWords: (words: string) => `It reads “${words}”`,
  forAJob: "For a job",
  forNoJob: "For no job",
  onlyWhatIMayUse: "Only what I may use for this job",
  onlyWhatIMayUseMyself: "Only what I may use myself",
  thisIsTheAnswerTo: "This is the answer to what was framed before.",
  unmeasuredCouldNotBeLooked: (unmeasured: number) =>
    `${count(unmeasured, "style")} could not be looked at yet: they are still being measured.`,
  takeFamilyForName: (family: string, name: string) => `Use ${family} for “${name}”`,
} as const;
