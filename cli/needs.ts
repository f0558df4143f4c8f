// `buvano needs`: every font documents use or ask for; with a library, where each of them is. Exit code 1 when no document could be read.
import { openAsBlob } from "node:fs";
import { readFile } from "node:fs/promises";
import { basename } from "node:path";
import { fileURLToPath, URL } from "node:url";
import { DeviceSummary } from "../contract/devices.ts";
import { NeedsLook, type NeedPlace } from "../contract/documents.ts";
import { ProblemDocument } from "../contract/problem.ts";
import { needsOf } from "../core/evidence/needs.ts";
import { readEvidence } from "../core/evidence/read.ts";
import { LibraryTaken } from "../server/lock.ts";
import { makeParts, thisMachine } from "../server/parts.ts";
import { makeServices } from "../server/services/services.ts";

export interface NeedsOrder {
  files: readonly string[];
  /** The library to look in; undefined to list the fonts alone. */
  dataDir: string | undefined;
  /** A device by its name; the first when it is left out. */
  device: string | undefined;
  json: boolean;
}

const WORDS: Record<NeedPlace, string> = {
  here: "here",
  off: "here, off",
  library: "on the shelf",
  parcel: "in a parcel",
  "other-style": "other styles only",
  nowhere: "nowhere",
  unnamed: "cannot tell",
};

/** A line for each font; without a library `place` and `sentence` are left out. */
interface Told {
  documents: {
    name: string;
    kind: string;
    unread: number;
    needs: { name: string; letters: number; place?: NeedPlace; sentence?: string }[];
  }[];
  problems: { fileName: string; message: string; next: string }[];
}

export async function needs({ files, dataDir, device, json }: NeedsOrder): Promise<number> {
  const told = dataDir === undefined ? await alone(files) : await inLibrary(files, dataDir, device);
  if (typeof told === "string") {
    process.stderr.write(`${told}\n`);
    return 1;
  }
  if (json) process.stdout.write(`${JSON.stringify(told)}\n`);
  else {
    for (const { name, kind, unread, needs: fonts } of told.documents) {
      process.stdout.write(
        `${name} (${kind}): ${fonts.length} ${fonts.length === 1 ? "font" : "fonts"}${unread > 0 ? `; its last ${unread} pages were not looked at` : ""}\n`,
      );
      for (const font of fonts)
        process.stdout.write(`  ${font.name || "a font without a name"}${font.place ? `: ${WORDS[font.place]}. ${font.sentence}` : ""}\n`);
    }
    for (const { fileName, message, next } of told.problems) process.stderr.write(`${fileName}: ${message} ${next}\n`);
  }
  return told.documents.length === 0 ? 1 : 0;
}

const unreadable = (file: string, error: unknown): Told["problems"][number] => ({
  fileName: basename(file),
  message: `It cannot be opened: ${(error as Error).message}.`,
  next: "Check its name and that you may read it.",
});

async function alone(files: readonly string[]): Promise<Told> {
  const told: Told = { documents: [], problems: [] };
  for (const file of files) {
    try {
      const read = await readEvidence(basename(file), new Uint8Array(await readFile(file)));
      if (read.ok) {
        const { kind, drawn } = read.value;
        told.documents.push({ name: basename(file), kind, unread: drawn ? drawn.pages - drawn.read : 0, needs: needsOf(read.value) });
      } else told.problems.push({ fileName: basename(file), ...read.problem });
    } catch (error) {
      told.problems.push(unreadable(file, error));
    }
  }
  return told;
}

/** What a library says; words when it cannot be asked. */
async function inLibrary(files: readonly string[], dataDir: string, device: string | undefined): Promise<Told | string> {
  const here = fileURLToPath(new URL(".", import.meta.url));
  const config = { dataDir, webDir: undefined, workerDir: here, builtInFonts: undefined, now: () => new Date(), ...thisMachine() };
  const there: string[] = [];
  const problems: Told["problems"] = [];
  for (const file of files) {
    const fault = await readFile(file).then(
      () => undefined,
      (error: unknown) => unreadable(file, error),
    );
    if (fault) problems.push(fault);
    else there.push(file);
  }
  let parts;
  try {
    parts = await makeParts(config);
  } catch (error) {
    if (!(error instanceof LibraryTaken)) throw error;
    // A running Buvano has the library: it is asked, and answers the same.
    if (!error.holder?.address) return error.message;
    return throughServer(error.holder.address, there, device, problems);
  }
  const services = await makeServices(parts);
  try {
    await services.begun;
    const chosen = device === undefined ? undefined : parts.devices.devices().find((one) => one.name === device)?.id;
    if (device !== undefined && chosen === undefined) return noDevice(device);
    const given = there.map((path) => ({ fileName: basename(path), path }));
    const looked = await services.needs.look(given, chosen);
    return { ...looked, problems: [...problems, ...looked.problems] };
  } finally {
    await services.close();
  }
}
const noDevice = (name: string): string => `There is no device called “${name}”. Give its name as Buvano shows it.`;

async function throughServer(
  address: string,
  files: readonly string[],
  device: string | undefined,
  problems: Told["problems"],
): Promise<Told | string> {
  const ask = async (path: string, body?: FormData): Promise<unknown> => {
    const response = await fetch(`${address}/api${path}`, body && { method: "POST", body });
    const answer: unknown = await response.json();
    if (response.ok) return answer;
    const { detail, next } = ProblemDocument.parse(answer);
    throw new Error(`${detail} ${next}`);
  };
  try {
    const devices = DeviceSummary.array().parse(await ask("/devices"));
    const chosen = device === undefined ? undefined : devices.find(({ name }) => name === device)?.id;
    if (device !== undefined && chosen === undefined) return noDevice(device);
    if (files.length === 0) return { documents: [], problems };
    const form = new FormData();
    for (const file of files) form.append("file", await openAsBlob(file), basename(file));
    const looked = NeedsLook.parse(await ask(`/documents/look${chosen === undefined ? "" : `?device=${chosen}`}`, form));
    return { ...looked, problems: [...problems, ...looked.problems] };
  } catch (error) {
    return (error as Error).message;
  }
}
