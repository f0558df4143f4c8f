// A place fonts can be put. Every kind of device implements this and nothing more.
import type { Folder, Slot } from "../../contract/devices.ts";

export interface HostFont {
  folder: Folder;
  fileName: string;
  on: boolean;
  /** Programs get to see it: it is on, and whatever the device goes by knows it. */
  visible: boolean;
  /** When the file last changed. */
  since: string;
  bytes: number;
  /** The sum, where it is known without reading. */
  sha256?: string;
  /** Where the file lies on this machine, where it does. */
  path?: string;
  read(): Promise<Uint8Array>;
}

export interface Host {
  /** Where fonts can be put. */
  slots: readonly Slot[];
  /** Slots that ask for a passcode before they are changed. */
  guarded: readonly Slot[];
  /** Containers it takes, as core/sfnt names them. */
  takes: readonly string[];
  prefers: "otf" | "ttf";
  /** Single fonts can be turned on and off. */
  switches: boolean;
  /** Steps are carried out by a person at the device; Buvano only hands over what is needed. */
  byHand: boolean;
  /** A practice device's passcode, which nobody can know otherwise. */
  practicePasscode?: string;

  /** What is there now. */
  observe(): Promise<HostFont[]>;
  /** What lies in its slots, without asking what programs get to see of it: quick, and enough to know that nothing changed. */
  glance?(): Promise<Pick<HostFont, "folder" | "fileName" | "on" | "since" | "bytes">[]>;
  freeBytes(): Promise<number | null>;
  /** Opens guarded slots for the steps that follow. Throws a `Fault` when the passcode is wrong. */
  unlock(passcode: string): Promise<void>;
  /** Writes a font whole or not at all. Throws system errors by their codes. */
  place(slot: Slot, fileName: string, bytes: Uint8Array): Promise<void>;
  /** The same for many at once, from files of the library; tells for each the system error's code, or nothing when it is in place. */
  placeMany?(slot: Slot, files: readonly { fileName: string; source: string }[]): Promise<(string | undefined)[]>;
  remove(slot: Slot, fileName: string): Promise<void>;
  /** Switches a font on or off where it is. */
  setOn(slot: Slot, fileName: string, on: boolean): Promise<void>;
  /** After the last step: has the device take notice, and shuts guarded slots. */
  settle(): Promise<void>;
  /** Where a slot's fonts go, for people to read. */
  folderName(slot: Slot): string;
}

const NO_HANDS = "This device's fonts are changed at the device itself.";
/** The part of a host whose steps a person carries out. */
export const handedOver: Pick<Host, "guarded" | "switches" | "byHand" | "unlock" | "place" | "remove" | "setOn" | "settle"> = {
  guarded: [],
  switches: false,
  byHand: true,
  unlock: () => Promise.resolve(),
  place: () => Promise.reject(new Error(NO_HANDS)),
  remove: () => Promise.reject(new Error(NO_HANDS)),
  setOn: () => Promise.reject(new Error(NO_HANDS)),
  settle: () => Promise.resolve(),
};
