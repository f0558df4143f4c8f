// The practice room: which simulated devices and programs ship with Buvano, and how each treats fonts.
import type { ProgramKind, ProgramTraits } from "../contract/program.ts";

export interface PracticeProgramPlan {
  slug: string;
  name: string;
  kind: ProgramKind;
  traits: ProgramTraits;
}
export interface PracticeDevicePlan {
  slug: string;
  name: string;
  kind: "laptop" | "desktop" | "tablet";
  programs: PracticeProgramPlan[];
}

const posterDesk: PracticeProgramPlan = {
  slug: "poster-desk",
  name: "Poster Desk",
  kind: "design",
  traits: { reads: ["me", "everyone"], readsWhen: "always", lists: "families", fakesStyles: false },
};
const letterDesk: PracticeProgramPlan = {
  slug: "letter-desk",
  name: "Letter Desk",
  kind: "office",
  traits: { reads: ["me", "everyone"], readsWhen: "start", lists: "four-style", fakesStyles: true },
};
const titleDesk: PracticeProgramPlan = {
  slug: "title-desk",
  name: "Title Desk",
  kind: "video",
  traits: { reads: ["everyone"], readsWhen: "start", lists: "full-names", fakesStyles: false },
};
const cuttingDesk: PracticeProgramPlan = {
  slug: "cutting-desk",
  name: "Cutting Desk",
  kind: "cutting",
  traits: { reads: ["me", "everyone"], readsWhen: "start", lists: "families", fakesStyles: false },
};

export const PRACTICE_WORLD: PracticeDevicePlan[] = [
  { slug: "workshop-laptop", name: "Workshop laptop", kind: "laptop", programs: [letterDesk, posterDesk, cuttingDesk] },
  { slug: "office-desktop", name: "Office desktop", kind: "desktop", programs: [letterDesk, titleDesk] },
];
