// A paired device as a host: it holds what it said itself, and a person carries the steps out there.
import type { DeviceKind } from "../../contract/devices.ts";
import type { AnswerRow } from "../store/pairing/pairings.ts";
import { handedOver, type Host } from "./host.ts";

/** What a device answered for, with the file each answer is about. */
export interface Answered extends AnswerRow {
  fileName: string;
  bytes: number;
}

export const pairedHost = (kind: DeviceKind, answers: () => readonly Answered[], read: (sha256: string) => Promise<Uint8Array>): Host => {
  const slot = kind === "tablet" || kind === "phone" ? "profile" : "me";
  return {
    ...handedOver,
    slots: [slot],
    takes: slot === "profile" ? ["sfnt"] : ["sfnt", "collection"],
    prefers: "otf",
    observe: async () =>
      answers()
        .filter((one) => one.answer === "there")
        .map(({ sha256, fileName, bytes, since }) => ({
          folder: slot,
          fileName,
          on: true,
          visible: true,
          since,
          bytes,
          sha256,
          read: () => read(sha256),
        })),
    freeBytes: () => Promise.resolve(null),
    folderName: () => (slot === "profile" ? "Profiles" : "The account's own fonts"),
  } as const;
};
