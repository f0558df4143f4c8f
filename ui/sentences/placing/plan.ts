// Every sentence of a plan, to be read aloud and changed in one place.
import { count, numberWords } from "../../../core/words/words.ts";

export const SAY = {
  originalAsFileName: (original: string, fileName: string) => `${original}, placed as ${fileName}`,
  failed: "Failed",
  handedOver: "Handed over",
  whatToDoWith: (styleName: string | null | undefined) => `What to do with ${styleName ?? "this"}`,
  theSameForAlikeAlike: (alike: number) => `The same for ${alike} alike`,
  thePasscodeIsAskedForOnce: (deviceName: string, asked: number, fontByFont: number) =>
    fontByFont > asked
      ? `The passcode of ${deviceName} is asked for once, instead of ${fontByFont} times font by font.`
      : `The passcode of ${deviceName} is asked for once.`,
  deviceWillAskForThePasscode: (deviceName: string, asked: number, fontByFont: number) => {
    const times = asked === 1 ? "once" : `${asked} times`;
    return fontByFont > asked
      ? `${deviceName} itself will ask for the passcode ${times}, instead of ${fontByFont} times font by font.`
      : `${deviceName} itself will ask for the passcode ${times}.`;
  },
  passcode: "Passcode",
  thisIsAPracticeDevice: (practicePasscode: string) => `This is a practice device; its passcode is ${practicePasscode}.`,
  passcodeOfDeviceName: (deviceName: string) => `Passcode of ${deviceName}`,
  onDeviceName: (deviceName: string) => `On ${deviceName}`,
  checkInName: (name: string) => `Check in ${name}`,
  reopenNameAndCheck: (name: string) => `Reopen ${name} and check`,
  loadIntoName: (name: string) => `Load into ${name}`,
  whatProgramsWillNeed: "What programs will need",
  whatProgramsNeedNow: "What programs need now",
  noProgramIsKnownOn: (deviceName: string) => `No program is known on ${deviceName} yet.`,
  takeBackWhatWasDone: "Take back what was done",
  undo: "Undo",
  nextThePlanFor: (device: string) => `Next: the plan for ${device}`,
  doneOfTotalSteps: (done: number, total: number) => `${numberWords(done)} of ${count(total, "step")}`,
  carryOutTheRest: "Carry out the rest",
  handOverToDeviceName: (deviceName: string) => `Hand over to ${deviceName}`,
  openDeviceName: (deviceName: string) => `Open ${deviceName}`,
  takeItBack: "Take it back",
  seeDeviceName: (deviceName: string) => `See ${deviceName}`,
  backToTheFamily: "Back to the family",
  plan: "Plan",
  nothingHasHappenedYet: "Nothing has happened yet.",
  itIsDoneOnceThe: "It is done once the device shows it.",
  drawingThePlan: "Drawing the plan",
  goesIntoFolder: (folder: string) => `Goes into: ${folder}`,
  files: "Files",
  nothingOfThisIsOn: (deviceName: string) => `Nothing of this is on ${deviceName}.`,
} as const;
