// A practice tablet as its owner holds it: profiles that wait, allowing, installing with the passcode, and removing.
import type { ProfileAct, TabletProfiles } from "../../../contract/devices.ts";
import type { ListedProfile } from "../../../practice/profiles.ts";
import type { PracticeRoom } from "../../../practice/room.ts";
import { Fault } from "../../fault.ts";
import { unlockPractice } from "../../hosts/practice.ts";
import type { DeviceService } from "../devices/devices.ts";
import type { Observer } from "../devices/observer.ts";

export class TabletRoom {
  private readonly devices: DeviceService;
  private readonly observer: Observer;
  private readonly room: PracticeRoom;
  constructor(devices: DeviceService, observer: Observer, room: PracticeRoom) {
    this.devices = devices;
    this.observer = observer;
    this.room = room;
  }

  async profiles(deviceId: number): Promise<TabletProfiles> {
    const device = this.observer.row(deviceId);
    const { profiles } = this.devices.practiceDevice(deviceId);
    const view = (profile: ListedProfile, installed: boolean): TabletProfiles["profiles"][number] => ({
      id: profile.id,
      name: profile.name,
      description: profile.description,
      organisation: profile.organisation,
      fonts: profile.fonts.map((font) => font.name),
      state: installed ? "installed" : profile.allowed ? "allowed" : "waiting",
    });
    return {
      deviceName: device.name,
      passcode: this.room.plan(device.slug)?.passcode ?? "",
      profiles: [
        ...(await profiles.waiting()).map((profile) => view(profile, false)),
        ...(await profiles.installed()).map((profile) => view(profile, true)),
      ],
    };
  }

  /** Something the tablet's owner does with a profile. */
  async act(deviceId: number, id: string, { act, passcode }: ProfileAct): Promise<TabletProfiles> {
    const device = this.observer.row(deviceId);
    const tablet = this.devices.practiceDevice(deviceId);
    const { profiles } = tablet;
    const listed = [...(await profiles.waiting()), ...(await profiles.installed())].some((profile) => profile.id === id);
    if (!listed)
      throw new Fault(404, { code: "profile-gone", message: "This profile is not here any more.", next: "Look at the list again." });
    try {
      if (act === "allow") await profiles.allow(id);
      if (act === "refuse") await profiles.refuse(id);
      if (act === "install" || act === "remove") {
        tablet.lock(await unlockPractice(tablet, device.name, passcode));
        await (act === "install" ? profiles.install(id) : profiles.remove(id));
      }
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code !== "ENOENT") throw error;
      throw new Fault(409, {
        code: "profile-state",
        message: "This profile is not in the state for that.",
        next: "Look at the list again.",
      });
    }
    await this.observer.observe(deviceId, true);
    return this.profiles(deviceId);
  }
}
