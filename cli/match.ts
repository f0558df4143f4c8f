// `buvano match` and `buvano alike`: which fonts of a library a picture shows, and what looks like a family. Exit code 1 when it cannot be told.
import { basename } from "node:path";
import { openAsBlob } from "node:fs";
import { fileURLToPath, URL } from "node:url";
import { AlikeView, MatchView, type MatchAsked } from "../contract/matching.ts";
import { JobSummary } from "../contract/jobs.ts";
import { FamilyPage } from "../contract/families.ts";
import { ProblemDocument } from "../contract/problem.ts";
import { Fault } from "../server/fault.ts";
import { LibraryTaken } from "../server/lock.ts";
import { makeParts, thisMachine } from "../server/parts.ts";
import { makeServices } from "../server/services/services.ts";

export interface MatchOrder {
  picture: string;
  dataDir: string;
  words: string;
  /** "x,y x,y x,y x,y"; the likeliest line when it is left out. */
  frame: string | undefined;
  job: string | undefined;
  json: boolean;
}
export interface AlikeOrder {
  family: string;
  dataDir: string;
  json: boolean;
}

/** A library, whether this process opens it or a running Buvano has it. */
interface Library {
  give(path: string): Promise<MatchView>;
  answer(id: number, asked: MatchAsked): Promise<MatchView>;
  remove(id: number): Promise<unknown>;
  jobs(): Promise<{ id: number; name: string }[]>;
  families(search: string): Promise<{ id: number; name: string }[]>;
  alike(familyId: number): Promise<AlikeView>;
}

async function inLibrary(dataDir: string, work: (library: Library) => Promise<number>): Promise<number> {
  const here = fileURLToPath(new URL(".", import.meta.url));
  const config = { dataDir, webDir: undefined, workerDir: here, builtInFonts: undefined, now: () => new Date(), ...thisMachine() };
  let parts;
  try {
    parts = await makeParts(config);
  } catch (error) {
    if (!(error instanceof LibraryTaken)) throw error;
    // A running Buvano has the library: it is asked, and answers the same.
    if (error.holder?.address) return guarded(() => work(through(error.holder!.address!)));
    process.stderr.write(`${error.message}\n`);
    return 1;
  }
  const services = await makeServices(parts);
  const { matching, families, jobs, measurer, alike: looks } = services;
  try {
    await services.begun;
    await measurer.measured();
    return await guarded(() =>
      work({
        give: (path) => matching.give(basename(path), path),
        answer: (id, asked) => matching.answer(id, asked),
        remove: (id) => Promise.resolve(matching.remove(id, true)),
        jobs: () => Promise.resolve(jobs.list()),
        families: (search) => Promise.resolve(families.list({ search, limit: 50 }).families),
        alike: (id) => looks.alike(id, null),
      }),
    );
  } finally {
    await services.close();
  }
}
/** What went wrong, as a sentence. */
async function guarded(work: () => Promise<number>): Promise<number> {
  try {
    return await work();
  } catch (error) {
    const said = error instanceof Fault ? `${error.problem.message} ${error.problem.next}` : (error as Error).message;
    process.stderr.write(`${said}\n`);
    return 1;
  }
}
function through(address: string): Library {
  const ask = async (path: string, init?: RequestInit): Promise<unknown> => {
    const response = await fetch(`${address}/api${path}`, init);
    const answer: unknown = await response.json();
    if (response.ok) return answer;
    const { detail, next } = ProblemDocument.parse(answer);
    throw new Error(`${detail} ${next}`);
  };
  const post = (path: string, body: unknown) =>
    ask(path, { method: "POST", headers: { "content-type": "application/json" }, body: JSON.stringify(body) });
  return {
    give: async (path) => {
      const form = new FormData();
      form.append("file", await openAsBlob(path), basename(path));
      return MatchView.parse(await ask("/matches", { method: "POST", body: form }));
    },
    answer: async (id, asked) => MatchView.parse(await post(`/matches/${id}/answer`, asked)),
    remove: (id) => post(`/matches/${id}/remove`, {}),
    jobs: async () => JobSummary.array().parse(await ask("/jobs")),
    families: async (search) => FamilyPage.parse(await ask(`/families?limit=50&search=${encodeURIComponent(search)}`)).families,
    alike: async (id) => AlikeView.parse(await ask(`/families/${id}/alike`)),
  };
}

function frameFrom(text: string): MatchAsked["frame"] | undefined {
  const corners = text
    .trim()
    .split(/\s+/)
    .map((corner) => corner.split(",").map(Number));
  return corners.length === 4 && corners.every((one) => one.length === 2 && one.every(Number.isFinite))
    ? (corners as unknown as MatchAsked["frame"])
    : undefined;
}
const wrong = (sentence: string): number => {
  process.stderr.write(`${sentence}\n`);
  return 1;
};

export function match({ picture, dataDir, words, frame: text, job, json }: MatchOrder): Promise<number> {
  const drawn = text === undefined ? undefined : frameFrom(text);
  if (text !== undefined && !drawn) return Promise.resolve(wrong("The frame cannot be read. Write its four corners as “x,y x,y x,y x,y”."));
  return inLibrary(dataDir, async (library) => {
    const jobId = job === undefined ? null : ((await library.jobs()).find(({ name }) => name === job)?.id ?? undefined);
    if (jobId === undefined) return wrong(`There is no job called “${job}”. Give its name as Buvano shows it.`);
    const view = await library.give(picture);
    try {
      const frame = drawn ?? view.lines[0];
      if (!frame) return wrong("No line of lettering was found in this picture. Give its corners with --frame.");
      const { answer } = await library.answer(view.id, { frame, strokes: [], colour: null, words, jobId, onlyCleared: jobId !== null });
      for (const one of answer!.candidates) {
        const { family, style, likeness, verdict, overlay, said, place } = one;
        process.stdout.write(
          json
            ? `${JSON.stringify({ family, style, likeness, verdict, overlay })}\n`
            : `${family} ${style}: ${said.toLowerCase()}, ${Math.round(likeness * 100)} % alike. ${place.name}.\n`,
        );
      }
      process.stderr.write(`${answer!.sentence}\n`);
      return answer!.candidates.length > 0 ? 0 : 1;
    } finally {
      await library.remove(view.id);
    }
  });
}

export const alike = ({ family: name, dataDir, json }: AlikeOrder): Promise<number> =>
  inLibrary(dataDir, async (library) => {
    const found = await library.families(name);
    const own = found.find((one) => one.name.toLowerCase() === name.toLowerCase()) ?? (found.length === 1 ? found[0] : undefined);
    if (!own) return wrong(`There is no family called “${name}” in this library. Give its name as Buvano shows it.`);
    const { families } = await library.alike(own.id);
    for (const one of families) {
      const { family, style, likeness, alike: how, ofStyle } = one;
      process.stdout.write(
        json
          ? `${JSON.stringify({ family, style, of: ofStyle, likeness, alike: how })}\n`
          : `${family} ${style}: ${ALIKE_WORDS[how]}, ${Math.round(likeness * 100)} % alike.\n`,
      );
    }
    if (families.length === 0) process.stderr.write(`Nothing in this library looks like ${own.name}.\n`);
    return families.length > 0 ? 0 : 1;
  });
const ALIKE_WORDS: Record<AlikeView["families"][number]["alike"], string> = {
  same: "the same design",
  near: "a near relative",
  manner: "the same manner",
};
