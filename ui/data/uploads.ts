// Parcels on their way to the server.
import { ParcelSummary } from "../../contract/parcel.ts";
import { isFontName } from "../../core/archive/kinds.ts";
import { upload, type ApiProblem } from "./api.ts";
import { makeStore } from "./store.ts";

export interface Outgoing {
  id: number;
  name: string;
  sent: number;
  total: number;
  problem: ApiProblem | null;
}

const outgoing = makeStore<readonly Outgoing[]>([]);
let lastId = 0;

const change = (id: number, part: Partial<Outgoing>): void =>
  outgoing.set(outgoing.get().map((one) => (one.id === id ? { ...one, ...part } : one)));
export const forget = (id: number): void => outgoing.set(outgoing.get().filter((one) => one.id !== id));
export const useOutgoing = (): readonly Outgoing[] => outgoing.use();

const pathOf = (file: File): string =>
  ((file as { path?: string }).path ?? file.webkitRelativePath ?? "").replace(/^\.?\//, "") || file.name;

async function sendParcel(files: readonly File[]): Promise<ParcelSummary | undefined> {
  const id = ++lastId;
  const name = files.length === 1 ? files[0]!.name : `${files.length} files`;
  outgoing.set([...outgoing.get(), { id, name, sent: 0, total: files.reduce((sum, file) => sum + file.size, 0), problem: null }]);
  try {
    const named = files.map((file) => ({ name: pathOf(file), file }));
    const parcel = await upload("/parcels", named, ParcelSummary, (sent, total) => change(id, { sent, total }));
    forget(id);
    return parcel;
  } catch (problem) {
    change(id, { problem: problem as ApiProblem });
    return undefined;
  }
}

/** Sends what was dropped: each archive is a parcel of its own, loose files together are one. Resolves to the first parcel. */
export async function dropFiles(files: readonly File[]): Promise<ParcelSummary | undefined> {
  const loose = files.filter((file) => isFontName(file.name) || files.length === 1 || pathOf(file).includes("/"));
  const archives = files.filter((file) => !loose.includes(file));
  const parcels: (ParcelSummary | undefined)[] = [];
  if (loose.length > 0) parcels.push(await sendParcel(loose));
  for (const archive of archives) parcels.push(await sendParcel([archive]));
  return parcels.find((parcel) => parcel !== undefined);
}
