// Pairing: a short one-time code lets one device in; from then on it holds a token that can be revoked, and may do its own work only.
import { createHash, randomBytes, randomInt, randomUUID, timingSafeEqual } from "node:crypto";
import { join } from "node:path";
import { USUAL_TRAITS } from "../../../contract/programs.ts";
import type { MyAnswers, MyDevice, MyStyle, PairRequest, PairingView } from "../../../contract/pairing.ts";
import { fontEnding, freeName, placedFileName } from "../../../core/placing/files.ts";
import { changes } from "../../../core/placing/plan.ts";
import { fileStem } from "../../../core/words/file-names.ts";
import type { Parts } from "../../parts.ts";
import { Fault, notFound } from "../../fault.ts";
import type { DeviceRow } from "../../store/devices/devices.ts";
import type { PlanRow, StoredStep } from "../../store/placing/plans.ts";
import type { WorkPool } from "../../work/pool.ts";
import { DEVICE_BROWSER, type LookService } from "../sightings/looks.ts";
import { handedOf, type Handing, type PlannedProfile } from "../placing/handing.ts";
import type { Observer } from "../devices/observer.ts";

export const CODE_MS = 5 * 60_000;
/** Wrong codes from one address before it is shut out for a while. */
export const CODE_TRIES = 5;
/** Wrong codes from everywhere together that one invitation outlives: a few hands may mistype it, nobody can guess it. */
const INVITATION_TRIES = 40;
/** Addresses remembered for having been wrong. */
const MOST_ADDRESSES = 1000;
const WRONG_MS = 10 * 60_000;
/** A device that is not used for so long has to be paired again; using it renews that. */
export const PAIRED_MS = 60 * 86_400_000;

const digest = (text: string): string => createHash("sha256").update(text).digest("hex");

/** What opens Buvano to the network; the server's own business. */
export interface NetworkListener {
  addresses(): string[];
  problem(): { code: string; message: string; next: string } | null;
  set(open: boolean): Promise<void>;
}

type Uses = Pick<
  Parts,
  "config" | "db" | "devices" | "pairings" | "plans" | "library" | "files" | "settings" | "history" | "events" | "now" | "programs"
>;

export class PairingService {
  private readonly uses: Uses;
  private readonly observer: Observer;
  private readonly handing: Handing;
  private readonly looks: LookService;
  private invitation: { code: string; expiresAt: number; triesLeft: number } | undefined;
  private lastPaired: string | null = null;
  /** When wrong codes were tried lately, by the address they came from. */
  private readonly wrongAt = new Map<string, number[]>();
  private readonly listener: NetworkListener;
  private readonly pool: Pick<WorkPool, "makeKit">;

  constructor(
    uses: Uses,
    observer: Observer,
    handing: Handing,
    looks: LookService,
    listener: NetworkListener,
    pool: Pick<WorkPool, "makeKit">,
  ) {
    this.pool = pool;
    this.listener = listener;
    this.looks = looks;
    this.uses = uses;
    this.observer = observer;
    this.handing = handing;
  }
  /** Cookies do not go by ports: this library's cookie has a name of its own, so that no other server of this machine takes it for its own. */
  get cookie(): string {
    return `buvano_device_${digest(this.uses.settings.libraryId()).slice(0, 8)}`;
  }
  private nowMs(): number {
    return this.uses.config.now().getTime();
  }
  private valid(): typeof this.invitation {
    return this.invitation && this.invitation.expiresAt > this.nowMs() && this.invitation.triesLeft > 0 ? this.invitation : undefined;
  }

  view(): PairingView {
    const invitation = this.valid();
    const { network } = this.uses.settings.get();
    return {
      network,
      addresses: network ? this.listener.addresses() : [],
      code: invitation?.code ?? null,
      expiresAt: invitation ? new Date(invitation.expiresAt).toISOString() : null,
      paired: this.lastPaired,
      problem: this.listener.problem(),
      devices: this.uses.devices.devices().flatMap((device) => {
        const pairing = device.sort === "paired" ? this.uses.pairings.get(device.id) : undefined;
        return pairing ? [{ id: device.id, name: device.name, kind: device.kind, pairedAt: pairing.pairedAt, seenAt: pairing.seenAt }] : [];
      }),
    };
  }

  async setNetwork(open: boolean): Promise<PairingView> {
    this.uses.settings.set({ network: open });
    await this.listener.set(open);
    if (!open || this.listener.problem()) this.invitation = undefined;
    if (this.listener.problem()) this.uses.settings.set({ network: false });
    this.uses.events.changed("pairing");
    return this.view();
  }

  /** Makes a new code; the one before it is worth nothing any more. */
  invite(): PairingView {
    if (!this.uses.settings.get().network) {
      throw new Fault(409, {
        code: "network-shut",
        message: "Buvano is not open to the network.",
        next: "Open it first, then invite a device.",
      });
    }
    this.invitation = {
      code: String(randomInt(1_000_000)).padStart(6, "0"),
      expiresAt: this.nowMs() + CODE_MS,
      triesLeft: INVITATION_TRIES,
    };
    this.lastPaired = null;
    this.uses.events.changed("pairing");
    return this.view();
  }

  /** How often an address was wrong lately. */
  private wrong(address: string): number[] {
    return (this.wrongAt.get(address) ?? []).filter((at) => at > this.nowMs() - WRONG_MS);
  }
  private countWrong(address: string): void {
    const wrong = [...this.wrong(address), this.nowMs()];
    this.wrongAt.delete(address);
    if (this.wrongAt.size >= MOST_ADDRESSES) this.wrongAt.delete(this.wrongAt.keys().next().value!);
    this.wrongAt.set(address, wrong);
  }

  /** Takes a code, once. Returns the device's token; Buvano itself keeps only its digest. `address` is where the request came from. */
  pair({ code, name, kind }: PairRequest, address: string): { token: string } {
    if (this.wrong(address).length >= CODE_TRIES) {
      throw new Fault(429, {
        code: "pairing-shut",
        message: "Too many wrong codes were tried from this device.",
        next: "Try again in ten minutes. Other devices can be paired meanwhile.",
      });
    }
    const invitation = this.valid();
    const typed = digest(code.replace(/\D/g, ""));
    if (!invitation || !timingSafeEqual(Buffer.from(typed), Buffer.from(digest(invitation.code)))) {
      // Without an invitation there is nothing to guess, and nobody to shut out.
      if (invitation) {
        this.countWrong(address);
        invitation.triesLeft--;
      }
      if (!this.valid()) this.uses.events.changed("pairing");
      throw new Fault(403, {
        code: "pairing-code",
        message: "This code is not valid, was used already, or is too old.",
        next: "Have a new code shown on the computer, and type that one.",
      });
    }
    // Used up before anything else happens: a code is good for one device.
    this.invitation = undefined;
    this.wrongAt.delete(address);
    const token = randomBytes(32).toString("base64url");
    const at = this.uses.now();
    this.uses.db.transaction(() => {
      const id = this.uses.devices.ensureDevice(`paired-${digest(token).slice(0, 16)}`, this.freeName(name), kind, "paired");
      this.uses.pairings.add(id, digest(token), at);
      const browser = {
        ...USUAL_TRAITS.browser,
        reads: ["me" as const, "everyone" as const, "profile" as const],
        readsWhen: "start" as const,
        // What is installed on a device it draws as other programs do.
        strict: false,
      };
      this.uses.programs.put({ deviceId: id, name: "Its own browser", kind: "browser", traits: browser }, DEVICE_BROWSER);
    })();
    this.lastPaired = name;
    this.uses.events.changed("pairing", "devices");
    return { token };
  }
  private freeName(name: string): string {
    const taken = new Set(this.uses.devices.devices().map((device) => device.name));
    for (let n = 1; ; n++) {
      const free = n === 1 ? name : `${name} ${n}`;
      if (!taken.has(free)) return free;
    }
  }

  revoke(id: number): PairingView {
    const device = this.observer.row(id);
    if (device.sort !== "paired") throw notFound("paired device");
    this.uses.db.transaction(() => {
      const at = this.uses.now();
      this.uses.pairings.revoke(id, at);
      this.uses.devices.setRemoved(id, at);
      this.uses.history.add(at, "unpaired", `${device.name} was unpaired.`, [], { kind: "unpaired", id });
    })();
    this.uses.events.changed("pairing", "devices", "families", "sightings");
    return this.view();
  }
  /** Pairs a device again that was unpaired: what it holds to prove itself counts as before. */
  async restore(id: number): Promise<PairingView> {
    if (!this.uses.pairings.isRevoked(id)) throw notFound("unpaired device");
    this.uses.db.transaction(() => {
      this.uses.pairings.restore(id);
      this.uses.devices.setRemoved(id, null);
    })();
    await this.observer.observe(id, true);
    this.uses.events.changed("pairing", "devices", "families", "sightings");
    return this.view();
  }

  /** The device a token belongs to. Throws a `Fault` for every other token. */
  whose(token: string | undefined): DeviceRow {
    const since = new Date(this.nowMs() - PAIRED_MS).toISOString();
    const id = token === undefined ? undefined : this.uses.pairings.deviceOf(digest(token), since);
    const device = id === undefined ? undefined : this.uses.devices.device(id);
    if (!device) {
      throw new Fault(401, {
        code: "not-paired",
        message: "This device is not paired with Buvano, or not any more.",
        next: "Have a new code shown on the computer, and type it here.",
      });
    }
    this.uses.pairings.seen(device.id, this.uses.now());
    return device;
  }

  private plansFor(device: DeviceRow): PlanRow[] {
    return this.uses.plans.inState("handed", device.id);
  }
  /** Files a device may have: those wanted on it, and those it said it has. */
  private ownSums(device: DeviceRow): Map<string, StoredStep | undefined> {
    const hashes = new Map<string, StoredStep | undefined>(
      this.uses.pairings
        .answers(device.id)
        .filter((one) => one.answer === "there")
        .map((one) => [one.sha256, undefined]),
    );
    for (const plan of this.plansFor(device))
      for (const item of plan.items) for (const step of item.steps) if (step.op === "copy") hashes.set(step.sha256, step);
    return hashes;
  }
  private profilesOf(device: DeviceRow): PlannedProfile[] {
    if (device.kind !== "tablet" && device.kind !== "phone") return [];
    return this.handing.profiles(device, this.plansFor(device).map(handedOf)).filter((profile) => profile.fonts.length > 0);
  }

  mine(device: DeviceRow): MyDevice {
    const answers = new Map(this.uses.pairings.answers(device.id).map((one) => [one.sha256, one]));
    const removing = this.plansFor(device).flatMap((plan) =>
      plan.items.flatMap((item) => item.steps.filter((step) => step.op === "remove")),
    );
    const styles = [...this.ownSums(device).keys()].flatMap((sha256): MyStyle[] => {
      const [face] = this.uses.library.facesBrief(sha256);
      if (!face) return [];
      const { fullName, family, postScriptName, rightToLeft, sample } = face.brief;
      const said = answers.get(sha256);
      return [
        {
          sha256,
          name: fullName,
          family,
          postScriptName,
          bytes: face.bytes,
          answer: said?.answer ?? "unasked",
          answeredAt: said?.at ?? null,
          fileName: placedFileName({ name: fullName, postScriptName, ending: fontEnding(face.brief) }),
          rightToLeft,
          sample,
        },
      ];
    });
    const plans = this.plansFor(device).map(handedOf);
    // That this page is to be opened, whoever reads it knows.
    const instructions = plans.length === 0 ? [] : this.handing.instructions(device, plans).slice(1);
    return {
      name: device.name,
      kind: device.kind,
      styles: styles.sort((a, b) => (a.name < b.name ? -1 : 1)),
      profiles: this.profilesOf(device).map(({ subject, name, fonts }) => ({ subject, name, styles: fonts.length })),
      remove: [...new Set(removing.filter(changes).map((step) => step.styleName))],
      steps: [...new Set(instructions)],
    };
  }

  /** A file wanted on the device; any other is not there for it. */
  async file(device: DeviceRow, sha256: string): Promise<{ fileName: string; bytes: Uint8Array }> {
    const style = this.mine(device).styles.find((one) => one.sha256 === sha256);
    if (!style) throw notFound("file");
    return { fileName: style.fileName, bytes: await this.uses.files.read(sha256) };
  }
  /** Everything wanted on a device that is not known to be there, as one zip; whoever takes it removes the file. */
  async everything(device: DeviceRow): Promise<{ fileName: string; path: string }> {
    const wanted = this.mine(device).styles.filter((style) => style.answer !== "there");
    if (wanted.length === 0) {
      throw new Fault(409, {
        code: "nothing-wanted",
        message: "Everything wanted here is here already.",
        next: "Check what is here, if a program does not show it.",
      });
    }
    const taken = new Set<string>();
    const bundle = wanted.map(({ fileName, sha256 }) => {
      const name = freeName(fileName, taken);
      taken.add(name.toLowerCase());
      return { fileName: name, sha256 };
    });
    const path = join(this.uses.files.unfinished, `wanted-${randomUUID()}.zip`);
    await this.pool.makeKit({ bundle, filesDir: join(this.uses.config.dataDir, "files"), madeAt: this.uses.now(), to: path });
    return { fileName: `${fileStem(`Fonts for ${device.name}`)}.zip`, path };
  }
  async profile(device: DeviceRow, subject: string): Promise<{ subject: string; bytes: Uint8Array }> {
    const profile = this.profilesOf(device).find((one) => one.subject === subject);
    if (!profile) throw notFound("profile");
    return { subject, bytes: await this.handing.profileFile(subject, profile.fonts) };
  }

  /** Takes a device's word for what it compared itself. */
  async answer(device: DeviceRow, { answers }: MyAnswers): Promise<MyDevice> {
    const own = this.ownSums(device);
    const removed = new Set(
      this.plansFor(device).flatMap((plan) =>
        plan.items.flatMap((item) => item.steps.filter((step) => step.op === "remove").map((step) => step.sha256)),
      ),
    );
    const at = this.uses.now();
    const before = new Map(this.uses.pairings.answers(device.id).map((one) => [one.sha256, one.answer]));
    const taken = answers.filter(({ sha256 }) => own.has(sha256) || removed.has(sha256));
    for (const { sha256, answer } of taken) this.uses.pairings.answer(device.id, sha256, answer, at);
    await this.observer.observe(device.id, true);
    // Asked again with the same result, a device tells nothing new; and that a file is gone which was to go is no news.
    this.looks.fromDevice(
      device.id,
      taken.flatMap(({ sha256, answer }) =>
        answer !== "cannot-tell" && before.get(sha256) !== answer && own.has(sha256) ? [{ sha256, answer }] : [],
      ),
    );
    return this.mine(device);
  }
}
