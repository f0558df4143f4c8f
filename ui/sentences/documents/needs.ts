// Every sentence of what a document needs, to be read aloud and changed in one place.
import { count } from "../../../core/words/words.ts";

export const SAY = {
  whereItSetsText: (words: string, letters: number, pages: readonly number[]) => {
    const set = `“${words}”: ${count(letters, "letter")}`;
    if (pages.length === 0) return set;
    return pages.length === 1 ? `${set}, page ${pages[0]}` : `${set}, ${count(pages.length, "page")} from page ${pages[0]}`;
  },
  aFontWithoutAName: "A font without a name",
  noneOfItsTextShows: (hidden: string) => `None of its text shows: ${hidden}.`,
  theDocumentCarriesItIt: "The document carries it: it is needed to edit, not to look at.",
  whereItIsMissingThe: (join: string) => `Where it is missing, the document uses ${join}.`,
  lookAtTheFamily: "Look at the family",
  findOneLikeIt: "Find one like it",
  fromAPictureOfIt: "From a picture of it, among your fonts.",
  lookIntoTheParcel: "Look into the parcel",
  nameWasRemoved: (name: string) => `“${name}” was removed.`,
  noTextInItIs: "No text in it is set in a font it names.",
  itsLastUnreadWereNot: (unread: number) => `Its last ${count(unread, "page")} were not looked at: it is too long.`,
  madeByMadeBy: (madeBy: string) => `Made by ${madeBy}`,
  makeItAJob: "Make it a job",
  remove: "Remove",
  showMore: (needs: number, visible: number) => `Show ${needs - visible} more`,
  planPlacingSizeOnDeviceName: (size: number, deviceName: string) => `Plan placing ${count(size, "font")} on ${deviceName}`,
  sizeOfThemWillBe: (size: number) => `${size} of them will be added to the shelf from a parcel first.`,
  chooseDocuments: "Choose documents",
  whatDoesADocumentNeed: "What does a document need?",
  letGoAndItIs: "Let go, and it is read.",
  dropAPdfOfficeDocument: "Drop a PDF, office document, web page, drawing, book or subtitle file. Every font it uses is looked for.",
  readADocument: "Read a document",
  readingWhatTheyNeed: "Reading what they need…",
  lookingForItsFonts: "Looking for its fonts",
  noDocumentYet: "No document yet.",
  forEachFontYouAre:
    "For each font you are told whether it is on the device you choose, on the shelf, in a parcel, or nowhere; what is missing is placed by one plan.",
  seenFrom: "Seen from",
  device: "Device",
} as const;
