// Every sentence of what looks alike, to be read aloud and changed in one place.
import { count } from "../../../core/words/words.ts";

export const SAY = {
  // MannerFilter
  findByManner: "Find by manner",
  sizeChosen: (size: number) => `${size} chosen`,
  any: "Any",
  anyManner: "Any manner",

  // LikeScreen
  makeNameLikeAnother: (name: string) => `Make ${name} like another`,
  makeItLikeAnother: "Make it like another",
  whatOnlyThisDeviceHas: "What only this device has is left alone, unless you choose otherwise in the plan.",
  nothingIsMissing: "Nothing is missing",
  showThePlan: "Show the plan",
  lookingAtTheDevices: "Looking at the devices",
  whichDeviceToFollow: "Which device to follow",
  likeWhichOne: "Like which one",
  noFontsPlaced: "No fonts placed",
  placedFontsPlaced: (placedFonts: number) => `${count(placedFonts, "font")} placed`,
  thereIsNoOtherDevice: "There is no other device yet.",
  comparingTheTwo: "Comparing the two",
  theDifference: "The difference",
  bothOnBoth: (both: number) => `${both} on both`,
  onlyThereOnlyOnOtherNameOnlyHere: (onlyThere: number, otherName: string, onlyHere: number, deviceName: string) =>
    `${count(onlyThere, "style")} only on ${otherName}, ${onlyHere} only on ${deviceName}.`,
  hereHereThereThere: (here: number, there: number) => `${here} here, ${there} there`,

  // AlikeScreen
  theWholeLibrary: "The whole library",
  allFamiliesInThisOrder: "All families in this order",
  theNearestFirstWhateverThey: "The nearest first, whatever they are cleared for.",
  likeFamily: (family: string) => `Like ${family}`,
  lookAlikes: "Look-alikes",
  measuredOnTheLettersShapes: "Measured on the letters’ shapes, within your library.",
  clearedFor: "Cleared for",
  clearedForMyOwnUse: "Cleared for my own use",
  comparingLetters: "Comparing letters",
  yourOwnUse: "your own use",
  unmeasuredOfThisFamilyStill: (unmeasured: number) =>
    `${count(unmeasured, "style")} of this family still being measured; look again in a moment.`,
  clearedForAsked: (asked: string) => `Cleared for ${asked}`,
  nothingThatLooksLikeIt: (asked: string) => `Nothing that looks like it is cleared for ${asked}.`,
  notClearedOrNothingStated: "Not cleared, or nothing stated",
} as const;
