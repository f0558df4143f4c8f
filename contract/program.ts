// Programs, described by how they treat fonts and never by a brand.
import { z } from "zod";

export const ProgramKind = z.enum(["design", "office", "video", "cutting", "notes", "browser"]);
export type ProgramKind = z.infer<typeof ProgramKind>;

export const ProgramTraits = z.object({
  /** Folders and stores whose fonts it reads; the device's own fonts always count. */
  reads: z.array(z.enum(["me", "everyone", "profile", "own"])),
  /** always: notices changes while open. start: only when it starts. by-hand: only what is loaded into it. */
  readsWhen: z.enum(["always", "start", "by-hand"]),
  /** families: family, then all its styles. four-style: legacy families with bold and italic buttons. full-names: one flat list. */
  lists: z.enum(["families", "four-style", "full-names"]),
  /** Draws a bold or italic of its own when the family has none. */
  fakesStyles: z.boolean(),
});
export type ProgramTraits = z.infer<typeof ProgramTraits>;

export const ProgramSummary = z.object({
  id: z.number().int(),
  deviceId: z.number().int(),
  name: z.string(),
  kind: ProgramKind,
  traits: ProgramTraits,
  /** Whether it is a practice program, which can be opened here. */
  practice: z.boolean(),
});
export type ProgramSummary = z.infer<typeof ProgramSummary>;
