// How far uploads and unpacking are; changes many times a second, so it stays out of the server resources.
import type { ParcelProgress } from "../../contract/parcel.ts";
import { makeStore } from "./store.ts";

const unpacking = makeStore<Readonly<Record<number, ParcelProgress>>>({});
export const setProgress = (parcelId: number, progress: ParcelProgress): void =>
  unpacking.set({ ...unpacking.get(), [parcelId]: progress });
export const useProgress = (parcelId: number): ParcelProgress | undefined => unpacking.use()[parcelId];
