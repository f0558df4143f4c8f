// A practice device as a host.
import type { PracticeDevice } from "../../practice/device.ts";
import type { Host } from "./host.ts";

export function practiceHost(device: PracticeDevice): Host {
  return {
    observe: async () =>
      (await device.list()).map((file) => ({
        folder: file.folder,
        fileName: file.fileName,
        on: file.on,
        since: new Date(file.changedAt).toISOString(),
        read: () => device.read(file),
      })),
    place: (account, fileName, bytes) => device.write(account, fileName, bytes),
    remove: (account, fileName) => device.remove(account, fileName),
    setOn: (account, fileName, on) => device.setOn(account, fileName, on),
    folderName: (account) => (account === "me" ? "Fonts / Mine" : "Fonts / Everyone"),
  };
}
