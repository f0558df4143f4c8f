// The practice room: which simulated devices and programs ship with Buvano, and how each treats fonts.
import { PLAIN_TRAITS, type ProgramKind, type ProgramTraits } from "../contract/programs.ts";

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
  /** Asked for before fonts are put in place for everyone, and before a profile is installed. Shown to whoever practises. */
  passcode: string;
  programs: PracticeProgramPlan[];
}

const posterDesk: PracticeProgramPlan = {
  slug: "poster-desk",
  name: "Poster Desk",
  kind: "design",
  traits: {
    ...PLAIN_TRAITS,
    reads: ["me", "everyone"],
    readsWhen: "always",
    variable: "instances",
    search: "anywhere",
    otherScripts: "after",
    alternates: true,
  },
};
const letterDesk: PracticeProgramPlan = {
  slug: "letter-desk",
  name: "Letter Desk",
  kind: "office",
  traits: { ...PLAIN_TRAITS, reads: ["me", "everyone"], readsWhen: "start", lists: "four-style", fakesStyles: true },
};
const titleDesk: PracticeProgramPlan = {
  slug: "title-desk",
  name: "Title Desk",
  kind: "video",
  traits: { ...PLAIN_TRAITS, reads: ["everyone"], readsWhen: "start", lists: "full-names", colour: false },
};
const cuttingDesk: PracticeProgramPlan = {
  slug: "cutting-desk",
  name: "Cutting Desk",
  kind: "cutting",
  traits: { ...PLAIN_TRAITS, reads: ["me", "everyone"], readsWhen: "start", variable: "none", collections: false, fallsBack: false },
};

const noteDesk: PracticeProgramPlan = {
  slug: "note-desk",
  name: "Note Desk",
  kind: "notes",
  traits: { ...PLAIN_TRAITS, reads: ["profile"], readsWhen: "start" },
};
const browserDesk: PracticeProgramPlan = {
  slug: "browser-desk",
  name: "Browser Desk",
  kind: "browser",
  traits: { ...PLAIN_TRAITS, reads: ["own"], readsWhen: "by-hand", fakesStyles: true, collections: false, strict: true },
};

export const PRACTICE_WORLD: PracticeDevicePlan[] = [
  { slug: "workshop-laptop", name: "Workshop laptop", kind: "laptop", passcode: "2580", programs: [letterDesk, posterDesk, cuttingDesk] },
  { slug: "office-desktop", name: "Office desktop", kind: "desktop", passcode: "4711", programs: [letterDesk, titleDesk, browserDesk] },
  { slug: "greenhouse-tablet", name: "Greenhouse tablet", kind: "tablet", passcode: "1357", programs: [noteDesk] },
];
