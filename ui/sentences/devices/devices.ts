// Every sentence of the list of devices, to be read aloud and changed in one place.

export const SAY = {
  noFontsPlaced: "No fonts placed",
  devices: "Devices",
  lookingAtTheDevices: "Looking at the devices",
  yourDevicesWillBeHere: "Your devices will be here.",
  eachWithTheFontsPlaced: "Each with the fonts placed on it, its programs, and what needs looking at.",
  addADevice: "Add a device",
  pairATabletPhoneOr: "Pair a tablet, phone or computer",
  itOpensBuvanoOverYour: "It opens Buvano over your network by a short code.",
  useThisComputer: "Use this computer",
  theOneBuvanoRunsOn: "The one Buvano runs on. Nothing on it changes before you carry out a plan.",
  tryItWithPracticeDevices: "Try it with practice devices",
  simulatedDevicesAndProgramsThat: "Simulated devices and programs that ship with Buvano.",
  practiceDevicesAreSimulatedAnd:
    "Practice devices are simulated and ship with Buvano, so that you can try everything without touching your own computer.",
} as const;
