// A practice device as a host.
import type { Slot } from "../../contract/devices.ts";
import { INSTALLABLE } from "../../core/placing/files.ts";
import { TRIES, type PracticeDevice, type WritableFolder } from "../../practice/device.ts";
import { Fault } from "../fault.ts";
import { handedOver, type Host, type HostFont } from "./host.ts";

const writable = (slot: Slot): WritableFolder => {
  if (slot === "profile") throw new Error("Profiles are installed at the tablet itself.");
  return slot;
};

/** Takes a device's passcode, or says in words why not. */
export async function unlockPractice(device: PracticeDevice, name: string, passcode: string): Promise<string> {
  if (passcode === "") {
    throw new Fault(401, {
      code: "passcode-needed",
      message: `${name} asks for its passcode.`,
      next: "Type it to go on; nothing was changed.",
    });
  }
  const answer = await device.unlock(passcode);
  if (answer.ok) return answer.key;
  if (answer.triesLeft > 0) {
    const left = answer.triesLeft === 1 ? "1 try is" : `${answer.triesLeft} tries are`;
    throw new Fault(401, { code: "passcode-wrong", message: "This is not the passcode.", next: `Nothing was changed; ${left} left.` });
  }
  const seconds = Math.max(1, Math.ceil((answer.lockedUntil - Date.now()) / 1000));
  throw new Fault(429, {
    code: "passcode-locked",
    message: `${name} took ${TRIES} wrong passcodes and takes none for now.`,
    next: `Nothing was changed. Try again in ${seconds} ${seconds === 1 ? "second" : "seconds"}.`,
  });
}

async function observe(device: PracticeDevice): Promise<HostFont[]> {
  return (await device.list()).map(({ folder, fileName, on, cached, changedAt, bytes, path, read }) => ({
    folder,
    fileName,
    on,
    bytes,
    read,
    visible: on && cached,
    since: new Date(changedAt).toISOString(),
    ...(path === undefined ? {} : { path }),
  }));
}

/** A computer: two folders, one of them guarded. */
export function practiceHost(device: PracticeDevice, name: string): Host {
  let key: string | undefined;
  return {
    slots: ["me", "everyone"],
    guarded: ["everyone"],
    takes: INSTALLABLE,
    prefers: "otf",
    switches: true,
    byHand: false,
    observe: () => observe(device),
    freeBytes: () => device.freeBytes(),
    unlock: async (passcode) => {
      key = await unlockPractice(device, name, passcode);
    },
    place: (slot, fileName, bytes) => device.write(writable(slot), fileName, bytes, key),
    remove: (slot, fileName) => device.remove(writable(slot), fileName, key),
    setOn: (slot, fileName, on) => device.setOn(writable(slot), fileName, on, key),
    settle: async () => {
      if (key !== undefined) device.lock(key);
      key = undefined;
      if (!(await device.state()).away) await device.refreshCache();
    },
    folderName: (slot) => (slot === "me" ? "Fonts / Mine" : "Fonts / Everyone"),
  };
}

/** A tablet: fonts come in profiles, which a person allows and installs there. */
export const practiceTabletHost = (device: PracticeDevice): Host => ({
  ...handedOver,
  slots: ["profile"],
  guarded: ["profile"],
  takes: ["sfnt"],
  prefers: "otf",
  observe: () => observe(device),
  freeBytes: () => device.freeBytes(),
  folderName: () => "Settings / Profiles",
});
