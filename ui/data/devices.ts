// Words of devices, the same on every screen.
import type { DeviceFont, DeviceSummary, Folder, ExternalChange } from "../../contract/devices.ts";
import type { ProgramSummary } from "../../contract/programs.ts";
import { count } from "../../core/words/words.ts";
import { SAY } from "../sentences/parts.ts";

export const KIND_WORDS: Record<ProgramSummary["kind"], string> = {
  design: SAY.designProgram,
  office: SAY.officeProgram,
  video: SAY.videoProgram,
  cutting: SAY.cuttingProgram,
  notes: SAY.notesProgram,
  browser: SAY.browserBasedEditor,
};
export const READS_WORDS: Record<ProgramSummary["traits"]["readsWhen"], string> = {
  start: SAY.readsFontsWhenItStarts,
  always: SAY.noticesNewFontsByItself,
  document: SAY.readsFontsWhenADocument,
  "by-hand": SAY.listsOnlyWhatIsLoaded,
};
export const SORT_WORDS: Record<DeviceSummary["sort"], string> = {
  practice: SAY.practiceDevice,
  computer: SAY.theComputerBuvanoRunsOn,
  paired: SAY.pairedOverTheNetwork,
};
export const FOLDER_WORDS: Record<Folder, string> = {
  me: SAY.forMe,
  everyone: SAY.forEveryone,
  profile: SAY.inAProfile,
  "built-in": SAY.cameWithTheDevice,
  own: SAY.inAProgramsOwnStore,
};
export const EXTERNAL_CHANGE_WORDS: Record<ExternalChange["how"], string> = {
  appeared: "appeared",
  vanished: SAY.isGone,
  changed: SAY.isAnotherFileNow,
  "switched-on": SAY.wasTurnedOn,
  "switched-off": SAY.wasTurnedOff,
};

/** A placed font among those of its device, by where it lies. */
export const fontKey = ({ folder, fileName }: Pick<DeviceFont, "folder" | "fileName">): string => `${folder}/${fileName}`;
export function fontOfKey(key: string): { folder: Folder; fileName: string } {
  const at = key.indexOf("/");
  return { folder: key.slice(0, at) as Folder, fileName: key.slice(at + 1) };
}

/** What wants looking at, the gravest first. */
export function troubleWords({ trouble }: Pick<DeviceSummary, "trouble">): string[] {
  const { duplicates, unseen, outdated, lapsed, externalChanges } = trouble;
  return [
    lapsed > 0 && `${lapsed} lapsed`,
    duplicates > 0 && count(duplicates, "duplicate"),
    unseen > 0 && SAY.unseenNotNoticedYet(unseen),
    externalChanges > 0 && SAY.changesMadeOutsideBuvano(externalChanges),
    outdated > 0 && `${outdated} outdated`,
  ].filter((words) => words !== false);
}

export { momentOf as when } from "../../core/words/dates.ts";
