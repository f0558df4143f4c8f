// Every sentence of jobs, to be read aloud and changed in one place.
import { count } from "../../../core/words/words.ts";

export const SAY = {
  // JobDevices
  placeThem: "Place them",
  placeAllOf: (job: string) => `Place all fonts of ${job}`,
  turnThemOn: "Turn them on",
  turnThemOff: "Turn them off",
  takeThemOff: "Take them off",
  allItsFontsOnA: "All its fonts on a device",
  onWhichDevice: "On which device",
  kitToCarry: "Kit to carry",

  // JobsScreen
  whatForAndHowReady: (uses: string, ready: number, families: number) =>
    `${uses} · ${ready} of ${count(families, "family", "families")} ready`,
  jobs: "Jobs",
  whatFontsAreWantedFor: "What fonts are wanted for: their uses, words and languages.",
  aNewJob: "A new job",
  fetchingYourJobs: "Fetching your jobs",
  noJobYet: "No job yet.",
  aJobSaysWhatYou:
    "A job says what you want to do: sell it, give it away, do it for a client. Buvano then tells for each family whether its licence allows that, whether it draws your words, and where it is placed and seen.",

  // JobScreen
  whatItIsFor: "What it is for",
  headlineHebrewText: "headline, Hebrew text…",
  languages: "Languages",
  languageNoFamilyYet: (language: string) => `${language}: no family yet`,
  findOneInYourLibrary: "Find one in your library that sets it.",
  cleared: "Cleared",
  draws: "Draws",
  placed: "Placed",
  noDeviceChosen: "No device chosen",
  onEveryDevice: "On every device",
  notOnMissingOn: (missingOn: string) => `Not on ${missingOn}`,
  seen: "Seen",
  lookAlikesThatAreCleared: "Look-alikes that are cleared",
  decidedAtTheBench: "Decided at the bench",
  chosenJoin: (join: string) => `Chosen: ${join}`,
  consideredConsidered: (considered: string) => `Considered: ${considered}`,
  theSheetItWasDecided: "The sheet it was decided on",
  creditLines: "Credit lines",
  copyThem: "Copy them",
  theJobWasRemoved: "The job was removed.",
  job: "Job",
  permissionSheet: "Permission sheet",
  asATable: "As a table",
  csv: "CSV",
  chooseFamilies: "Choose families",
  openingTheJob: "Opening the job",
  families: "Families",
  noFamilyIsChosenFor: "No family is chosen for it yet.",
  changeTheJob: "Change the job",
  remove: "Remove",

  // JobFormScreen
  addALanguage: "Add a language",
  familiesWanted: "Families wanted",
  chosenChosen: (chosen: number) => `${chosen} chosen`,
  findAFamilyByName: "Find a family by name",
  theFirst60OfTotal: (total: number) => `The first 60 of ${total}; type more of the name.`,
  createTheJob: "Create the job",
  keepTheChanges: "Keep the changes",
  name: "Name",
  plantMarkersForTheShop: "Plant markers for the shop",
  wordsThatWillBeSet: "Words that will be set",
  everyCharacterOfThemIs: "Every character of them is looked for in each family.",
  madeOn: "Made on",
} as const;
