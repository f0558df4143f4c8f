// The practice room: all simulated devices under one folder, and which of their programs are open.
import { join } from "node:path";
import { PracticeDevice } from "./device.ts";
import { OpenProgram } from "./program.ts";
import { PRACTICE_WORLD, type PracticeDevicePlan, type PracticeProgramPlan } from "./world.ts";

/** A program that has been opened, wherever it runs. */
export type ProgramHandle = Pick<OpenProgram, "filesRead" | "menu" | "load" | "draw" | "exportPage" | "exportSvg"> & {
  /** It is forgotten where it runs. */
  close?: () => void;
};
/** Starts a program on a device; `onEnded` is called when it ends by itself. */
export type StartProgram = (plan: PracticeProgramPlan, device: PracticeDevice, onEnded: () => void) => Promise<ProgramHandle>;
const startHere: StartProgram = ({ name, slug, traits }, device) => OpenProgram.start(name, slug, traits, device);

interface Session {
  program: ProgramHandle;
  openedAt: string;
}

export class PracticeRoom {
  private readonly root: string;
  private readonly devices = new Map<string, PracticeDevice>();
  private readonly sessions = new Map<string, Session>();
  private readonly start: StartProgram;
  constructor(root: string, start: StartProgram = startHere) {
    this.root = root;
    this.start = start;
  }

  async prepare(builtInFonts: string): Promise<void> {
    for (const { slug, passcode } of PRACTICE_WORLD) {
      const device = new PracticeDevice(join(this.root, slug), passcode);
      await device.prepare(builtInFonts);
      device.inUse = () => new Set(this.openOn(slug).flatMap(({ program }) => program.filesRead()));
      this.devices.set(slug, device);
    }
  }

  get world(): readonly PracticeDevicePlan[] {
    return PRACTICE_WORLD;
  }
  device(slug: string): PracticeDevice | undefined {
    return this.devices.get(slug);
  }
  plan(slug: string): PracticeDevicePlan | undefined {
    return PRACTICE_WORLD.find((one) => one.slug === slug);
  }
  private openOn(device: string): Session[] {
    return [...this.sessions].filter(([key]) => key.startsWith(`${device}/`)).map(([, session]) => session);
  }
  session(device: string, program: string): Session | undefined {
    return this.sessions.get(`${device}/${program}`);
  }
  /** Starts a program unless it is open; resolves to its session, or undefined when there is no such program. */
  async open(device: string, program: string, at: string): Promise<Session | undefined> {
    const plan = this.plan(device)?.programs.find((one) => one.slug === program);
    const home = this.devices.get(device);
    if (!plan || !home) return undefined;
    const already = this.session(device, program);
    if (already) return already;
    const key = `${device}/${program}`;
    const session: Session = { program: await this.start(plan, home, () => this.forget(key, session)), openedAt: at };
    this.sessions.set(key, session);
    return session;
  }
  close(device: string, program: string): void {
    const key = `${device}/${program}`;
    this.sessions.get(key)?.program.close?.();
    this.sessions.delete(key);
  }
  private forget(key: string, session: Session): void {
    if (this.sessions.get(key) === session) this.sessions.delete(key);
  }
}
