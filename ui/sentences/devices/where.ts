// Every sentence of where somebody works, to be read aloud and changed in one place.
import { count } from "../../../core/words/words.ts";

export const SAY = {
  iUseADesignProgram: "I use a design program",
  iUseAnOfficeProgram: "I use an office program",
  iUseAVideoProgram: "I use a video program",
  iUseACuttingProgram: "I use a cutting program",
  iUseANotesProgram: "I use a notes program",
  iUseABrowserBased: "I use a browser-based editor",
  myKindWords: (kindWords: string) => `My ${kindWords}`,
  programsOnName: (name: string) => `Programs on ${name}`,
  whatYouCallIt: "What you call it",
  addWanted: (wanted: number) => `Add ${count(wanted, "program")}`,
  addPrograms: "Add programs",
  whereDoYouWork: "Where do you work?",
  buvanoPlacesFontsThereAnd: "Buvano places fonts there, and says where each program lists them.",
  done: "Done",
  lookingAtYourChoices: "Looking at your choices",
  yourDevices: "Your devices",
  thisComputerIsOneOf: "This computer is one of your devices.",
  thisComputer: "This computer",
  theOneBuvanoRunsOn: "The one Buvano runs on. Nothing on it changes before you carry out a plan.",
  aTabletPhoneOrOther: "A tablet, phone or other computer",
  itOpensBuvanoOverYour: "It opens Buvano over your network by a short code.",
  practiceDevicesAreAmong: "The practice devices are among your devices. They are simulated; the settings hide them again.",
  tryItWithPracticeDevices: "Try it with practice devices",
  simulatedDevicesAndProgramsThat: "Simulated devices and programs that ship with Buvano. You can hide them at any time.",
} as const;
