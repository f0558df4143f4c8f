// Every sentence of placing, to be read aloud and changed in one place.
import { count } from "../../../core/words/words.ts";

export const SAY = {
  // PlaceForm
  onWhichDevices: "On which devices",
  noDeviceYet: "No device yet",
  addADevice: "Add a device",
  fontsArePlacedOnDevices: "Fonts are placed on devices: this computer, a tablet, another computer, or a practice device.",
  thisComputerATabletOr: "This computer, a tablet, a phone or another computer.",
  chooseADevice: "Choose a device",
  showThePlan: "Show the plan",
  showThePlans: (plans: number) => `Show ${count(plans, "plan")}`,

  // PlaceSheet
  nothingChangesYetThePlan: "Nothing changes yet: the plan shows every step first.",
  ofThemThereAlready: (files: number) => `${count(files, "file")} of them there already`,
  noneOfThemThereYet: "None of them there yet",
  lookingAtTheDevices: "Looking at the devices",
  whereADeviceHasAccounts: "Where a device has accounts; it asks for its passcode.",

  // PlaceScreen
  place: (name: string | null | undefined) => `Place ${name ?? ""}`,
  nothingChangesYetTheNext: "Nothing changes yet: the next screen shows every step first.",
  thereAlready: (what: string) => `There already · ${what}`,
  planTurningItOff: "Plan turning it off",
  planTurningItOn: "Plan turning it on",
  planTakingItOff: "Plan taking it off",
  profiles: "Profiles",
  inWhichProfiles: "In which profiles",
  oneForTheWholeFamily: "One for the whole family",
  theTabletAsksForIts: "The tablet asks for its passcode once.",
  oneForEachStyle: "One for each style",
  eachCanBeRemovedBy: "Each can be removed by itself; the tablet asks for its passcode every time.",
  oneForEverything: "One for everything",
  togetherWithWhatElseCame: "Together with what else came that way: one profile to install, and one to remove.",
  onADeviceThatIs: "On a device that is not here",
  aTabletByAProfile: "A tablet, by a profile",
  aFileThatTheTablet: "A file that the tablet reads itself.",
  aMachineWithoutAConnection: "A machine without a connection, by a kit",
  oneZipFontsPapersProfiles: "One zip: fonts, papers, profiles, a checklist to print, install scripts.",
} as const;
