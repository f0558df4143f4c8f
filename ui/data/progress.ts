// How far uploads and unpacking are; changes many times a second, so it stays out of the server resources.
import type { ParcelProgress } from "../../contract/parcels.ts";
import { makeStore } from "./store.ts";

const unpacking = makeStore<Readonly<Record<number, ParcelProgress>>>({});
export const setProgress = (parcelId: number, progress: ParcelProgress): void =>
  unpacking.set({ ...unpacking.get(), [parcelId]: progress });
export const useProgress = (parcelId: number): ParcelProgress | undefined => unpacking.use()[parcelId];

export interface PlanProgress {
  done: number;
  total: number;
}
const carrying = makeStore<Readonly<Record<number, PlanProgress>>>({});
export const setPlanProgress = (planId: number, { done, total }: PlanProgress): void =>
  carrying.set({ ...carrying.get(), [planId]: { done, total } });
export const usePlanProgress = (planId: number): PlanProgress | undefined => carrying.use()[planId];

const matching = makeStore<Readonly<Record<number, { done: number; of: number }>>>({});
export const setMatchProgress = (matchId: number, { done, of }: { done: number; of: number }): void =>
  matching.set({ ...matching.get(), [matchId]: { done, of } });
export const useMatchProgress = (matchId: number): { done: number; of: number } | undefined => matching.use()[matchId];

const acting = makeStore<{ done: number; total: number } | null>(null);
/** What is done with very many at once; nothing is going on once all of them are done. */
export const setActing = ({ done, total }: { done: number; total: number }): void => acting.set(done < total ? { done, total } : null);
export const useActing = (): { done: number; total: number } | null => acting.use();
