// Every sentence of a parcel's page, to be read aloud and changed in one place.
import { count, numberWords, sizeWords } from "../../../core/words/words.ts";
import { dayOf } from "../../../core/words/dates.ts";

export const SAY = {
  // PapersDrawer
  papers: "Papers",

  // ParcelRow
  waitingToBeUnpacked: "Waiting to be unpacked",
  unpacking: "Unpacking…",
  couldNotBeUnpacked: "Could not be unpacked",
  whatIsInAParcel: (parcel: {
    families: number;
    styles: number;
    troubles: number;
    shelvableStyles: number;
    unwrappableStyles: number;
    shelvedStyles: number;
    beingRead: number;
  }): string => {
    const inside = [
      count(parcel.families, "family", "families"),
      count(parcel.styles, "style"),
      ...(parcel.troubles > 0 ? [`${count(parcel.troubles, "file")} with trouble`] : []),
    ].join(", ");
    const next =
      parcel.shelvableStyles > 0
        ? `${numberWords(parcel.shelvableStyles)} to shelve`
        : parcel.unwrappableStyles > 0
          ? `${count(parcel.unwrappableStyles, "web font")} can be converted`
          : parcel.shelvedStyles > 0
            ? "shelved"
            : "nothing to shelve";
    return parcel.beingRead > 0 ? `${inside} — ${next}, ${count(parcel.beingRead, "paper")} still being read` : `${inside} — ${next}`;
  },
  unpackingName: (name: string) => `Unpacking ${name}`,

  // ParcelRows
  fonts: "Fonts",
  webFonts: "Web fonts",
  previews: "Previews",
  designSources: "Design sources",
  archivesInside: "Archives inside",
  leftAside: "Left aside",
  alsoInTheParcel: "Also in the parcel",
  sound: "Sound",
  usableWithRemarks: "Usable, with remarks",
  damaged: "Damaged",
  onTheShelf: "On the shelf",
  staysInTheParcel: "Stays in the parcel",
  aWebFontProgramsDo: (reason: string) => `A web font: programs do not install it as it is. ${reason}`,
  hideRemarks: "Hide remarks",
  shelveThisOneFullName: (fullName: string) => `Shelve this one: ${fullName}`,
  shelveThisOne: "Shelve this one",
  someStylesComeInTwo: "Some styles come in two formats.",
  eitherWorksOnAComputer: "Either works on a computer; tablets prefer .otf. One of each pair is taken, here and from now on:",
  formatToTake: "Format to take",
  otf: ".otf",
  ttf: ".ttf",
  thisParcelAlsoHoldsName: (shelved: boolean, name: string, reason: string) =>
    `${shelved ? `On the shelf is “${name}”` : `This parcel also holds “${name}”`}: ${reason}. They may be one family.`,
  onceBothAreOnTheShelf: "Once both are on the shelf they can be filed as one.",
  fileUnder: (other: string, name: string) => `File “${other}” under “${name}”`,
  isFiledUnder: (other: string, name: string) => `“${other}” is filed under “${name}”.`,

  // ParcelScreen
  waitingForItsTurn: "Waiting for its turn…",
  starting: "Starting",
  cancel: "Cancel",
  foundSoFar: "Found so far",
  passwordOfTheArchive: "Password of the archive",
  password: "Password",
  unlock: "Unlock",
  nameWasRemoved: (name: string) => `${name} was removed.`,
  theArchiveIsDeletedTomorrow: (bytes: number) => `The archive is deleted tomorrow and frees ${sizeWords(bytes)}.`,
  theParcel: "The parcel",
  shelveToShelve: (toShelve: number) => `Shelve ${count(toShelve, "style")}`,
  unwrapWebToInstall: (web: number) => `Unwrap ${count(web, "web font")} to install`,
  seeThemInFamilies: "See them in Families",
  clearTheArchiveBytes: (bytes: number) => `Clear the archive, ${sizeWords(bytes)}`,
  parcel: "Parcel",
  bytesArrivedArrivedAt: (bytes: number, arrivedAt: string, cleared: boolean) =>
    `${sizeWords(bytes)}, arrived ${dayOf(arrivedAt)}${cleared ? "; its archive is cleared" : ""}`,
  openingTheParcel: "Opening the parcel",
  tryAgain: "Try again",
  remove: "Remove",
} as const;
