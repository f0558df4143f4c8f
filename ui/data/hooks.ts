// What screens read: one hook a resource, kept fresh by the server's events.
import { AlikeView, MatchList, MatchView } from "../../contract/matching.ts";
import useSWR, { type SWRResponse } from "swr";
import { z } from "zod";
import { Draws, GlyphPage, SheetDetail, SheetSummary, SignsFound, StyleFeatures, StyleHead, StylePage } from "../../contract/bench.ts";
import { LineCut } from "../../contract/cutting.ts";
import { FamilyClearance } from "../../contract/clearance.ts";
import { Comparison, DeviceDetail, DeviceFonts, DeviceSummary, DuplicateGroup, TabletProfiles } from "../../contract/devices.ts";
import { FamilyCounts, FamilyDetail, FamilyPage, type FamilyQuery } from "../../contract/families.ts";
import { HistoryEvent } from "../../contract/history.ts";
import { JobDetail, JobSummary, Language } from "../../contract/jobs.ts";
import { ParcelDetail, ParcelIds, ParcelPage } from "../../contract/parcels.ts";
import type { GlyphKind } from "../../core/symbols/kinds.ts";
import { BackupState } from "../../contract/backup.ts";
import { LibraryState } from "../../contract/library.ts";
import { NeedsView } from "../../contract/documents.ts";
import { PaperText } from "../../contract/papers.ts";
import { PairingView } from "../../contract/pairing.ts";
import { PlanView } from "../../contract/placing.ts";
import { ProgramSummary } from "../../contract/programs.ts";
import { PracticeProgram } from "../../contract/practice.ts";
import { Board, type BoardQuery, Cell, Diagnosis } from "../../contract/sightings.ts";
import { QuickCheck } from "../../contract/quick-check.ts";
import { Settings, WatchReport } from "../../contract/settings.ts";
import { TabletView } from "../../contract/tablets.ts";
import { Today } from "../../contract/today.ts";
import { get, type ApiProblem } from "./api.ts";

export type Answer<T> = SWRResponse<T, ApiProblem>;

function useResource<S extends z.ZodType>(path: string | null, schema: S): Answer<z.output<S>> {
  return useSWR<z.output<S>, ApiProblem>(path, () => get(path!, schema), { keepPreviousData: true });
}

const Events = z.array(HistoryEvent);
const Jobs = z.array(JobSummary);
const Languages = z.array(Language);
const Sheets = z.array(SheetSummary);
const Devices = z.array(DeviceSummary);
const Duplicates = z.array(DuplicateGroup);

export const useSettings = () => useResource("/settings", Settings);
export const useWatchReport = () => useResource("/settings/watch", WatchReport);
export const usePaper = (sha256: string) => useResource(`/papers/${sha256}`, PaperText);
export const useLibraryState = () => useResource("/library", LibraryState);
export const useBackup = () => useResource("/backup", BackupState);
export const useToday = () => useResource("/today", Today);
/** Parcels that wait for somebody, or those that do not, the latest first. */
export const useParcels = (waits: boolean, limit: number) =>
  useResource(`/parcels?waits=${waits ? "yes" : "no"}&limit=${limit}`, ParcelPage);
/** IDs of parcels that hold something to shelve. */
export const useShelvable = () => useResource("/parcels/shelvable", ParcelIds);
export const useUndoableEvents = () => useResource("/history/undoable", Events);
export const useParcel = (id: number) => useResource(`/parcels/${id}`, ParcelDetail);
export const useDevices = () => useResource("/devices", Devices);
export const useDevice = (id: number) => useResource(`/devices/${id}`, DeviceDetail);
/** Fonts of a device that are fetched together; its page brings the first of them. */
export const FONTS_PAGE = 100;
/** The part of a device's fonts that holds their `index`th; null asks nothing. */
export const useDeviceFonts = (id: number, q: string | null, index: number) =>
  useResource(
    q === null ? null : `/devices/${id}/fonts?${searchOf({ q, from: Math.floor(index / FONTS_PAGE) * FONTS_PAGE, limit: FONTS_PAGE })}`,
    DeviceFonts,
  );
export const useDuplicates = (id: number) => useResource(`/devices/${id}/duplicates`, Duplicates);
export const useComparison = (id: number, otherId: number | undefined) =>
  useResource(otherId === undefined ? null : `/devices/${id}/compare/${otherId}`, Comparison);
export const useTabletProfiles = (id: number) => useResource(`/devices/${id}/profiles`, TabletProfiles);
export const usePairing = () => useResource("/pairing", PairingView);
export const usePlan = (id: number) => useResource(`/plans/${id}`, PlanView);
/** Rows of the board that are fetched together. */
export const BOARD_PAGE = 60;
/** The part of the board that holds its `index`th row; null asks nothing. */
export const useBoard = (query: Partial<BoardQuery> | null, index = 0) =>
  useResource(query && `/board?${searchOf({ ...query, from: Math.floor(index / BOARD_PAGE) * BOARD_PAGE, limit: BOARD_PAGE })}`, Board);
/** What is due in a program; of some families or styles only, by their IDs with commas between. */
export const useQuickCheck = (programId: number | undefined, only: { families: string | undefined; styles: string | undefined }) =>
  useResource(programId === undefined ? null : `/programs/${programId}/check?${searchOf(only)}`, QuickCheck);
/** Documents asked about, as they stand to a device; the first when none is chosen. */
export const useNeeds = (deviceId: string | undefined) =>
  useResource(`/documents${deviceId === undefined ? "" : `?device=${deviceId}`}`, NeedsView);
export const useCell = (styleId: number, programId: number) => useResource(`/cells/${styleId}/${programId}`, Cell);
/** Asked for when somebody wonders; null asks nothing. */
export const useDiagnosis = (cell: { styleId: number; programId: number } | null) =>
  useResource(cell && `/cells/${cell.styleId}/${cell.programId}/diagnosis`, Diagnosis);
export const useProgram = (id: number | undefined) => useResource(id === undefined ? null : `/programs/${id}`, ProgramSummary);
export const usePracticeProgram = (id: number) => useResource(`/practice/${id}`, PracticeProgram);

export const useClearance = (familyId: number) => useResource(`/families/${familyId}/clearance`, FamilyClearance);
export const useTablet = (familyId: number) => useResource(`/families/${familyId}/tablet`, TabletView);
export const useJobs = () => useResource("/jobs", Jobs);
export const useJob = (id: number | undefined) => useResource(id === undefined ? null : `/jobs/${id}`, JobDetail);
export const useLanguages = () => useResource("/languages", Languages);

export const useMatches = () => useResource("/matches", MatchList);
export const useMatch = (id: number) => useResource(`/matches/${id}`, MatchView);
export const useAlike = (familyId: number | null, jobId: number | null) =>
  useResource(familyId === null ? null : `/families/${familyId}/alike${jobId === null ? "" : `?job=${jobId}`}`, AlikeView);
export const useSheets = () => useResource("/bench/sheets", Sheets);
export const useSheet = (id: number) => useResource(`/bench/sheets/${id}`, SheetDetail);
export const useLineCut = (sheetId: number, lineId: string) => useResource(`/bench/sheets/${sheetId}/cuts/${lineId}`, LineCut);
export const useFeatures = (styleId: number | null) => useResource(styleId === null ? null : `/styles/${styleId}/features`, StyleFeatures);
/** Glyphs that are fetched together. */
export const GLYPH_PAGE = 480;
export const useGlyphs = (
  styleId: number,
  query: { find: string; block?: string | undefined; script?: string | undefined; kind?: GlyphKind | undefined; from: number },
) => useResource(`/styles/${styleId}/glyphs?${searchOf({ ...query, limit: GLYPH_PAGE })}`, GlyphPage);
/** Whose glyphs are looked at. */
export const useStyleHead = (styleId: number) => useResource(`/styles/${styleId}`, StyleHead);
/** Signs by word in all styles; null asks nothing. */
export const useSigns = (find: string | null) => useResource(find === null ? null : `/draws/signs?${searchOf({ find })}`, SignsFound);
/** Which styles draw these characters; null asks nothing. */
export const useDraws = (text: string, familyId: number | undefined) =>
  useResource(text.trim() === "" ? null : `/draws?${searchOf({ text: text.slice(0, 40), family: familyId })}`, Draws);
/** Styles that are fetched together. */
const STYLE_PAGE = 60;
export const useStylesByLetter = (query: FamilyQuery, letter: number, like: string | undefined) =>
  useResource(like === undefined ? null : `/bench/styles?${searchOf({ ...query, letter, like })}`, StylePage);
export const useStylesNear = (query: FamilyQuery, index: number) =>
  useResource(`/bench/styles?${searchOf({ ...query, from: Math.floor(index / STYLE_PAGE) * STYLE_PAGE, limit: STYLE_PAGE })}`, StylePage);

/** Rows of a list of families that are fetched together. */
export const FAMILY_PAGE = 50;

export function searchOf(query: object): URLSearchParams {
  const search = new URLSearchParams();
  for (const [name, value] of Object.entries(query)) if (value !== undefined && value !== "") search.set(name, String(value));
  return search;
}
/** Null asks nothing. */
export const useFamilies = (query: FamilyQuery | null) => useResource(query && `/families?${searchOf(query)}`, FamilyPage);
/** How many families each filter would leave; null asks nothing. */
export const useFamilyCounts = (query: FamilyQuery | null) => useResource(query && `/families/counts?${searchOf(query)}`, FamilyCounts);
/** The part of a list that holds its `index`th family. */
export const useFamiliesNear = (query: FamilyQuery, index: number) =>
  useFamilies({ ...query, from: Math.floor(index / FAMILY_PAGE) * FAMILY_PAGE, limit: FAMILY_PAGE });
/** A family in somebody's words; undefined asks nothing. */
export const useFamily = (id: number | undefined, text: string) =>
  useResource(id === undefined ? null : `/families/${id}?${new URLSearchParams({ text })}`, FamilyDetail);
