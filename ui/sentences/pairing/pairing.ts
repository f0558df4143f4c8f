// Every sentence of pairing, to be read aloud and changed in one place.
import { momentOf } from "../../../core/words/dates.ts";

export const SAY = {
  inviteADevice: "Invite a device",
  n1OnTheOtherDevice: "1. On the other device, open this address",
  qrCodeOfAddress: (address: string) => `QR code of ${address}`,
  orMore: (more: string) => `Or: ${more}`,
  n2TypeThisCodeThere: "2. Type this code there",
  worksForOneDeviceFor: (left: number, padStart: string) => `Works for one device, for ${Math.floor(left / 60)}:${padStart} more.`,
  pairedIsPairedNowA: (paired: string) => `${paired} is paired now. A new device needs a new code.`,
  noCodeIsValidAt: "No code is valid at the moment.",
  showACode: "Show a code",
  nameIsUnpaired: (name: string) => `${name} is unpaired.`,
  pairADevice: "Pair a device",
  aTabletPhoneOrOther: "A tablet, phone or other computer on your network opens Buvano, sees what is wanted on it, and says what it has.",
  lookingAtTheNetwork: "Looking at the network",
  network: "Network",
  buvanoAnswersOnThisComputer:
    "Buvano answers on this computer only. Opened to the network, other devices reach one page of it: where they show a code and then do their own work, nothing else. Use it on a network you trust; what is sent there is not encrypted.",
  openToMyNetwork: "Open to my network",
  pairedDevices: "Paired devices",
  noneYet: "None yet.",
  pairedPairedAtLastHereSeenAt: (pairedAt: string, seenAt: string) => `Paired ${momentOf(pairedAt)}, last here ${momentOf(seenAt)}`,
  seeIt: "See it",
  unpair: "Unpair",
  closeToTheNetwork: "Close to the network",
} as const;
