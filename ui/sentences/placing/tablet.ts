// Every sentence of bringing a family to a tablet, to be read aloud and changed in one place.
import { sizeWords } from "../../../core/words/words.ts";

export const SAY = {
  familyNameOnATablet: (familyName: string) => `${familyName} on a tablet`,
  onATablet: "On a tablet",
  aProfileHoldsTheFonts: "A profile holds the fonts; the tablet reads it itself, and asks before it does.",
  saveTheProfileBytes: (bytes: number) => `Save the profile, ${sizeWords(bytes)}`,
  makingTheProfile: "Making the profile",
  onTheTablet: "On the tablet",
  inTheProfile: "In the profile",
  noStyleOfThisFamily: "No style of this family can be put on a tablet.",
  leftOutName: (name: string) => `Left out: ${name}`,
  toTakeItOffAgain: "To take it off again",
} as const;
