// What kind of paper a paper is, by its name, where it lies and what it says; and how much its words count.

export type PaperKind = "licence" | "note" | "terms" | "readme" | "answers" | "manual" | "log" | "packaging" | "mail" | "other";

export const PAPER_KIND_WORDS: Record<PaperKind, string> = {
  licence: "Licence",
  note: "Licence note",
  terms: "Terms of sale",
  readme: "Readme",
  answers: "Questions and answers",
  manual: "Manual or specimen",
  log: "Change log",
  packaging: "Packaging file",
  mail: "Mail",
  other: "Other paper",
};

/** What a text looks like, whatever it is called. */
export interface Look {
  /** Questions that stand as headings. */
  questions: number;
  sentences: number;
  /** Entries of changes. */
  changes: number;
  /** Sentences quoted from mail. */
  quoted: number;
  /** Part of its lines that is a known licence's text, 0 to 1. */
  licenceShare: number;
  /** The machine-readable copyright file of Debian. */
  copyrightFile: boolean;
  /** It has more sentences than are looked at closely. */
  full: boolean;
}

const BY_NAME: readonly (readonly [name: RegExp, kind: PaperKind])[] = [
  [/(^|[-_ .])(faqs?|questions|answers|q-?and-?a)([-_ .]|$)/i, "answers"],
  [/(change[-_ ]?log|changes|history|news|release[-_ ]?notes|version[-_ ]?history|what'?s[-_ ]?new|fontlog)/i, "log"],
  [/(licen[cs]e|legal|usage|copyright)[-_ ]?(note|notice|info|hint|summary)/i, "note"],
  [/(^|[-_ .])(terms|eula|agb|conditions|order|invoice|receipt)([-_ .]|$)/i, "terms"],
  [
    /(licen[cs]e|lizenz|licencia|licen[cç]a|licenza|licentie|copying|(^|[-_ .])(o|u)fl([-_ .]|$)|gpl|copyleft|רישיון|ライセンス|使用許諾)/i,
    "licence",
  ],
  [/(copyright|notice|legal|permission|usage|(^|[-_ .])rights([-_ .]|$))/i, "note"],
  [
    /^(package|composer|bower|metadata|fontinfo|info)\.|debian|\.(json|pb|toml|ya?ml|xml|spec|install|conf)$|^(authors|contributors|maintainers|copyright_holders)/i,
    "packaging",
  ],
  [
    /(manual|specimen|documentation|docs?[-_ .]|guide|tutorial|sample|showing|features?|preview|install|how[-_ ]?to|character|glyph|test|demo)/i,
    "manual",
  ],
  [/(read[-_ ]?me|lies[-_ ]?mich|lisez[-_ ]?moi|leia[-_ ]?me|leggi[-_ ]?mi|lees[-_ ]?mij|l[ée]eme|about|קרא|読んで|はじめに)/i, "readme"],
  [/\.(eml|mbox)$|(^|[-_ .])e?mail/i, "mail"],
];
const FOLDERS: readonly (readonly [folder: RegExp, kind: PaperKind])[] = [
  [/(^|\/)(licen[cs]es?)\//i, "licence"],
  [/(^|\/)(documentation|manual|specimens?|samples?|html|doc\/[^/]+\/examples)\//i, "manual"],
];

/** What kind of paper it is. `path` is where it lies in its parcel. */
export function kindOfPaper(path: string, look: Look): PaperKind {
  const name = path.slice(path.lastIndexOf("/") + 1);
  if (look.copyrightFile) return "note";
  const named = BY_NAME.find(([pattern]) => pattern.test(name))?.[1];
  if (named === "answers" || named === "log") return named;
  if (look.sentences >= 6 && look.questions * 4 >= look.sentences) return "answers";
  if (look.licenceShare > 0.5) return "licence";
  if (named) return named;
  if (look.sentences > 0 && look.quoted * 2 > look.sentences) return "mail";
  if (look.sentences >= 6 && look.changes * 2 > look.sentences) return "log";
  return FOLDERS.find(([folder]) => folder.test(path))?.[1] ?? "other";
}
