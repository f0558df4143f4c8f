// A place fonts can be put. Every kind of device implements this and nothing more.
export interface HostFont {
  folder: "built-in" | "me" | "everyone";
  fileName: string;
  on: boolean;
  /** When the file last changed. */
  since: string;
  read(): Promise<Uint8Array>;
}

export interface Host {
  /** What is there now. */
  observe(): Promise<HostFont[]>;
  /** Writes a font whole or not at all. */
  place(account: "me" | "everyone", fileName: string, bytes: Uint8Array): Promise<void>;
  remove(account: "me" | "everyone", fileName: string): Promise<void>;
  /** Switches a font on or off where it is. */
  setOn(account: "me" | "everyone", fileName: string, on: boolean): Promise<void>;
  /** Where an account's fonts go, for people to read. */
  folderName(account: "me" | "everyone"): string;
}
