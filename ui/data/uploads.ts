// Parcels on their way to the server.
import { ParcelSummary } from "../../contract/parcels.ts";
import { parcelsOf } from "../../core/archive/arrival.ts";
import { upload, type ApiProblem } from "./api.ts";
import { makeStore } from "./store.ts";

export interface Outgoing {
  id: number;
  name: string;
  /** waiting for its turn, on its way, or stopped by a problem. */
  state: "waiting" | "sending" | "stopped";
  sent: number;
  total: number;
  problem: ApiProblem | null;
}

const outgoing = makeStore<readonly Outgoing[]>([]);
/** What each one needs to be sent, again if need be, and to be called off. */
const jobs = new Map<number, { files: readonly File[]; stop: AbortController }>();
let lastId = 0;

const change = (id: number, part: Partial<Outgoing>): void =>
  outgoing.set(outgoing.get().map((one) => (one.id === id ? { ...one, ...part } : one)));
export const useOutgoing = (): readonly Outgoing[] => outgoing.use();

/** Calls one off, whether it waits, is on its way or was stopped. */
export function callOff(id: number): void {
  jobs.get(id)?.stop.abort();
  jobs.delete(id);
  outgoing.set(outgoing.get().filter((one) => one.id !== id));
}

const pathOf = (file: File): string =>
  ((file as { path?: string }).path ?? file.webkitRelativePath ?? "").replace(/^\.?\//, "") || file.name;

function enqueue(files: readonly File[]): number {
  const id = ++lastId;
  const name = files.length === 1 ? files[0]!.name : `${files.length} files`;
  const total = files.reduce((sum, file) => sum + file.size, 0);
  jobs.set(id, { files, stop: new AbortController() });
  outgoing.set([...outgoing.get(), { id, name, state: "waiting", sent: 0, total, problem: null }]);
  return id;
}

/** Sends one of the queue; undefined when it was called off or could not be sent. */
async function send(id: number): Promise<ParcelSummary | undefined> {
  const job = jobs.get(id);
  if (!job) return undefined;
  change(id, { state: "sending", problem: null });
  try {
    const named = job.files.map((file) => ({ name: pathOf(file), file }));
    const parcel = await upload("/parcels", named, ParcelSummary, (sent, total) => change(id, { sent, total }), job.stop.signal);
    callOff(id);
    return parcel;
  } catch (problem) {
    if (jobs.has(id)) change(id, { state: "stopped", problem: problem as ApiProblem });
    return undefined;
  }
}
export const sendAgain = (id: number): Promise<ParcelSummary | undefined> => send(id);

/** Sends what was dropped, one parcel after another. Resolves to the first parcel. */
export async function dropFiles(files: readonly File[]): Promise<ParcelSummary | undefined> {
  const parcels = parcelsOf(files.map((file) => ({ path: pathOf(file), file })));
  const queue = parcels.map((parcel) => enqueue(parcel.files.map(({ file }) => file)));
  let first: ParcelSummary | undefined;
  for (const id of queue) first = (await send(id)) ?? first;
  return first;
}
