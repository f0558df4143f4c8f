// Configuration profiles, written in worker threads: they hold whole font files.
import { writeProfile } from "../../core/placing/profile.ts";
import type { FileStore } from "../files/files.ts";

/** A configuration profile to write: its fonts by the hashes of their files. */
export interface ProfileToWrite {
  fileName: string;
  subject: string;
  organisation: string;
  library: string;
  fonts: { fullName: string; postScriptName: string; fileName: string; sha256: string }[];
}

export async function profileText(
  { subject, organisation, library, fonts }: Omit<ProfileToWrite, "fileName">,
  files: Pick<FileStore, "read">,
): Promise<string> {
  const held = [];
  for (const { sha256, ...font } of fonts) held.push({ ...font, bytes: await files.read(sha256) });
  return writeProfile({ family: subject, organisation, library, fonts: held });
}
