// What screens read: one hook a resource, kept fresh by the server's events.
import useSWR, { type SWRResponse } from "swr";
import { z } from "zod";
import { DeviceDetail, DeviceSummary } from "../../contract/device.ts";
import { FamilyDetail, FamilySummary, type FamilyQuery } from "../../contract/family.ts";
import { ParcelDetail, ParcelSummary } from "../../contract/parcel.ts";
import { PaperText } from "../../contract/paper.ts";
import { PlanView } from "../../contract/plan.ts";
import { PracticeProgram } from "../../contract/practice.ts";
import { Board, Prediction } from "../../contract/sighting.ts";
import { Settings } from "../../contract/settings.ts";
import { Today } from "../../contract/today.ts";
import { get, type ApiProblem } from "./api.ts";

export type Answer<T> = SWRResponse<T, ApiProblem>;

function useResource<S extends z.ZodType>(path: string | null, schema: S): Answer<z.output<S>> {
  return useSWR<z.output<S>, ApiProblem>(path, () => get(path!, schema), { keepPreviousData: true });
}

const Parcels = z.array(ParcelSummary);
const Families = z.array(FamilySummary);
const Devices = z.array(DeviceSummary);

export const useSettings = () => useResource("/settings", Settings);
export const usePaper = (sha256: string) => useResource(`/papers/${sha256}`, PaperText);
export const useToday = () => useResource("/today", Today);
export const useParcels = () => useResource("/parcels", Parcels);
export const useParcel = (id: number) => useResource(`/parcels/${id}`, ParcelDetail);
export const useDevices = () => useResource("/devices", Devices);
export const useDevice = (id: number) => useResource(`/devices/${id}`, DeviceDetail);
export const usePlan = (id: number) => useResource(`/plans/${id}`, PlanView);
export const useBoard = () => useResource("/board", Board);
export const useCell = (styleId: number, programId: number) => useResource(`/cells/${styleId}/${programId}`, Prediction);
export const usePracticeProgram = (id: number) => useResource(`/practice/${id}`, PracticeProgram);

export function useFamilies(query: FamilyQuery) {
  const search = new URLSearchParams(Object.entries(query).filter((pair): pair is [string, string] => Boolean(pair[1])));
  return useResource(`/families?${search}`, Families);
}
export const useFamily = (id: number, text: string) => useResource(`/families/${id}?${new URLSearchParams({ text })}`, FamilyDetail);
