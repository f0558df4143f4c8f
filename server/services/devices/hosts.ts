// Which host stands behind each device.
import { execFile } from "node:child_process";
import { promisify } from "node:util";
import type { PracticeRoom } from "../../../practice/room.ts";
import type { Parts } from "../../parts.ts";
import { notFound } from "../../fault.ts";
import { computerHost, computerPlace, type Runner } from "../../hosts/computer.ts";
import type { Host } from "../../hosts/host.ts";
import { pairedHost, type Answered } from "../../hosts/paired.ts";
import { practiceHost, practiceTabletHost } from "../../hosts/practice.ts";
import type { DeviceRow } from "../../store/devices/devices.ts";

export const COMPUTER_SLUG = "this-computer";
const MOST_OUTPUT_BYTES = 64 * 1024 * 1024;

const runHere =
  (env: NodeJS.ProcessEnv): Runner =>
  async (command, args) =>
    (await promisify(execFile)(command, [...args], { env, maxBuffer: MOST_OUTPUT_BYTES, timeout: 120_000 })).stdout;

type Uses = Pick<Parts, "config" | "pairings" | "library" | "files">;

export class Hosts {
  private readonly uses: Uses;
  private readonly room: PracticeRoom;
  private readonly made = new Map<number, Host>();
  constructor(uses: Uses, room: PracticeRoom) {
    this.uses = uses;
    this.room = room;
  }

  of(device: DeviceRow): Host {
    let host = this.made.get(device.id);
    if (!host) this.made.set(device.id, (host = this.make(device)));
    return host;
  }
  private make(device: DeviceRow): Host {
    if (device.sort === "computer") {
      const { dataDir, home, platform, env } = this.uses.config;
      return computerHost(computerPlace(platform, env, home, dataDir, runHere({ ...env, HOME: home })));
    }
    if (device.sort === "paired") {
      return pairedHost(
        device.kind,
        () => this.answered(device.id),
        (sha256) => this.uses.files.read(sha256),
      );
    }
    const practice = this.room.device(device.slug);
    if (!practice) throw notFound("device");
    const host = device.kind === "tablet" ? practiceTabletHost(practice) : practiceHost(practice, device.name);
    return { ...host, practicePasscode: this.room.plan(device.slug)?.passcode ?? "" };
  }

  private answered(deviceId: number): Answered[] {
    return this.uses.pairings.answers(deviceId).flatMap((one) => {
      const [face] = this.uses.library.facesBrief(one.sha256);
      return face ? [{ ...one, fileName: face.brief.fullName, bytes: face.bytes }] : [];
    });
  }
}
