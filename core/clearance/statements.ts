// Reads plain-word statements of what a font may be used for. It would rather leave something unsaid than say a wrong yes: a sentence
// that it does not understand to its end answers nothing.
import { asksFirst, forbids, takesBack } from "./acts.ts";
import { asideOf, speaksOfFiles, type Aside } from "./speech.ts";
import { USES, type Answer, type Use } from "./uses.ts";
import { remembered } from "../words/remembered.ts";

type Word = Exclude<Answer, "not-stated">;
export type Answers = Partial<Record<Use, Word>>;

/** Sentences that papers repeat are read once. */
const MOST_REMEMBERED = 4000;

const PERSONAL: readonly Use[] = ["own"];
const NON_COMMERCIAL: readonly Use[] = ["own", "given-away"];
const COMMERCIAL: readonly Use[] = ["sold", "client"];
const ALL: readonly Use[] = USES;

/** Words for uses, looked for in a clause. The longer ones are taken out before the shorter ones are looked for. */
const USE_TERMS: readonly (readonly [term: RegExp, uses: readonly Use[]])[] = [
  [/\b(personal(,| or| and|\/) ?(and |or )?(non-? ?commercial|educational)( (use|projects?|purposes?|work))?)\b/g, NON_COMMERCIAL],
  [/\bnon-? ?commercial(ly)?( (use|projects?|purposes?|work|only))?\b/g, NON_COMMERCIAL],
  [/\bnon-? ?profit( (use|projects?|purposes?|work))?\b/g, ["given-away"]],
  [/\b(personal|private|home|hobby)( (use|projects?|purposes?|work|things))\b/g, PERSONAL],
  [/\b(personal|private)(ly)?\b/g, PERSONAL],
  [/\bany(thing)? (commercial|paid)\b/g, COMMERCIAL],
  [
    /\b(commercial(ly)?|professional(ly)?|business(es)?|for[- ]profit|paid)( (use|projects?|purposes?|work|products?|jobs?|things))?\b/g,
    COMMERCIAL,
  ],
  [/\b(client|customer)s?['’]?s?( (work|projects?|jobs?))?\b/g, ["client"]],
  [
    /\b(sell(ing)?|sold|(goods|items|products|things|merchandise) (that )?(you |are |for )?(sell|sold|sale)|for sale|resale|merchandise)\b/g,
    ["sold"],
  ],
  [/\b(giv(e|en|ing) (it |them |things |your work )?away|gifts?|charity|charities|school|classroom|church)\b/g, ["given-away"]],
  [/\b(embed(ded|ding)?|pdfs?|e-?books?)\b/g, ["document"]],
  [/\b(videos?|films?|movies?|broadcast(s|ing)?|television|tv|streaming)\b/g, ["video"]],
  [/\b(web ?(sites?|pages?|fonts?|use)|on the web|online use)\b/g, ["web"]],
];

/** Every use there is, in one word. */
const ANY_USE =
  /\b(any|all|every|whatever) (kinds? of )?(uses?|purposes?|projects?|works?)\b|\bfor (anything|everything|whatever)\b|\b(use|used) (it |them |this font |these fonts )?(for |in |as )?(anything|everything|anywhere|however you (like|want|please|wish)|as you (like|want|please|wish))\b|\bpublic domain\b|\b(no|without( any)?) restrictions?( (at all|of any kind|whatsoever))?\b(?! on)|\bunrestricted use\b|\bdo (what|whatever) you (like|want|please)\b/;

const PERMITS =
  /\b(free(ly)?|allowed|permitted|permits?|allows?|welcome to|may|can|okay|ok|fine|go ahead|granted|grants?|licen[cs]ed for|included|includes|covers?|unlimited|good for|suitable|happy for you|no problem|unrestricted|(is|are) for (personal|private)|(is|are) welcome|gratis|without (charge|cost)|at no (cost|charge))\b/;
/** Turns of phrase whose words above mean something else; they are put into words of one meaning first. */
const TURNS: readonly (readonly [RegExp, string])[] = [
  [/\bfree, (for|to)\b/g, "free $1"],
  [
    /\b(do not|don't|don’t|does not|doesn't|doesn’t|needn't|need not) (need|require|have to (buy|get|have|ask for))( (a|an|any|the|my|our|further|extra|special|separate))* (licen[cs]e|permission|payment|fee|attribution|credit)\b/g,
    "gratis",
  ],
  [/\bno need to (ask|pay|buy|credit|mention|write)[^,;.:]*/g, "gratis"],
  [/@font-face/g, "web fonts"],
  [/\b(commercial|personal|private|profit|profitable)(ly)?,? or (not|otherwise|non-? ?commercial(ly)?)\b/g, "personal and commercial"],
  [/\b(licen[cs]e|permission|payment|fee|purchase|donation)s? (is|are) not (needed|required|necessary)\b/g, "gratis"],
  [
    /\b(do not|don't|don’t|does not|doesn't|doesn’t|needn't|need not) (need|have|required?) (to )?(buy|pay|purchase)( (a|an|any|the|extra|anything|something|licen[cs]e|fee|version))*\b/g,
    "gratis",
  ],
  // Things that are commercial or professional without being a use.
  [
    /\b(commercial|professional|business) (support|help|programs?|software|printers|foundr(y|ies)|fonts?|typefaces?|tools?|apps?|applications?|release|designers?|typographers?|editors?|layout|success|studio|training|names?|partners?|letters?|sources?)\b/g,
    " ",
  ],
  [/\bnot only\b(.{0,200}?)\bbut( also)?\b/g, "$1 and "],
  [/\bnot (just|merely)\b(.{0,200}?)\bbut( also)?\b/g, "$2 and "],
  [/\b(is |are )?not for sale\b/g, " "],
  [
    /\b(needs?|requires?) no (further |extra |special |written )?(licen[cs]e|permission|payment|fee|attribution|credit|purchase)\b/g,
    "is gratis",
  ],
  [
    /\b(no|without( any)?) (further |extra |special |additional |written )?(licen[cs]e|permission|payment|fee|fees|charge|cost|costs|purchase|royalt(y|ies)|donation|attribution|credit)( (is|are))? (needed|required|necessary|due|asked)\b/g,
    "gratis",
  ],
  [
    /\bwithout( (any|paying|buying|asking|having to pay))*( an?| any| for)? (fees?|charge|cost|costs|payment|royalt(y|ies)|money)\b/g,
    "gratis",
  ],
  [/\b(no (fees?|charge|cost|costs|royalt(y|ies)))\b/g, "gratis"],
  [
    /\b(do not|don't|don’t|does not|doesn't|doesn’t|needn't|need not|not) (need|have|required?) (to )?(buy|pay|purchase|ask|credit|contact|donate|mention)[^,;.]*/g,
    "gratis",
  ],
  [
    /\b(credit|attribution|donations?|a credit line|mention)( line)? (is|are|would be|would)( (very|much|always|greatly|highly|most))* (appreciated|welcome|nice|lovely|optional|great|kind)[^,;.]*/g,
    "gratis",
  ],
  [/\b(credit|attribution)( line)? (is|are) not (required|needed|necessary|obligatory|mandatory)( but[^,;.]*)?/g, "gratis"],
  [/\b(made|set|printed|created|designed) (with|in|using) (it|this font|these fonts|the font|the fonts|them)\b/g, " "],
  [
    /\bcommercial licen[cs]e:? (is )?included\b( with every purchase)?|\bincludes? (a |the )?commercial licen[cs]e\b/g,
    "commercial use allowed",
  ],
  [/\bno restrictions? on\b/g, "allowed for"],
  [/\bwithout (any )?(restrictions?|limits?|limitations?) (on|for)\b/g, "allowed for"],
  [/\bno (limits?|limitations?) (on|for|to)\b/g, "allowed for"],
  [/\bfree of charge\b/g, "gratis"],
  [/\band nothing else\b/g, "only"],
  [/\bnon[- ]commercial\b/g, "noncommercial"],
  [/\bnot[- ]for[- ]profit\b/g, "nonprofit"],
  [/\bcost[- ]free\b/g, "gratis"],
];

const CREDIT_REQUIRED =
  /\b((with|if you (give |add |include )?|must (give |include )?|please |provided (that )?you (give |include )?|as long as you (give |include )?|when you (give |include )?|requires?( an?)?|need(s)? (an? )?|so long as you (give |include )?|on condition (that )?you )\s*(proper |appropriate |clear |visible |full |a |an |the )?(credit|attribution|credits|mention|acknowledg\w+|name the (author|designer|maker)|cite|link back)|(credit|attribution|a credit line|mention of the (author|designer)) (is |must be )?(required|needed|mandatory|obligatory|necessary|given)|credit(ing)? (me|us|the (author|designer|maker|artist)|[a-z]+ [a-z]+) (is )?(required|mandatory|needed)|you (must|have to|should) (credit|name|mention|attribute)|you credit)\b/;

/** A wish or an offer for later, not a grant. */
const NOT_A_GRANT =
  /\?|\b(looking for|thinking of|if you (want|would like|wish|plan|need|intend)|would you|do you|used to be|was free|were free|other fonts?|my other|check out|visit|browse|trial|demo|test(ing)? (purposes?|only)|evaluat\w*|preview|example|imagine|someday|may change|soon)\b/;

function usesIn(clause: string): Use[] {
  const found = new Set<Use>();
  let rest = clause;
  for (const [term, uses] of USE_TERMS) {
    const without = rest.replace(term, " ");
    if (without === rest) continue;
    rest = without;
    for (const use of uses) found.add(use);
  }
  // Embedding in web pages is use on the web, not in documents.
  if (found.has("web") && found.has("document") && !/\b(documents?|pdfs?|e-?books?|files?)\b/.test(clause)) found.delete("document");
  return [...found];
}

/** How many characters at the beginning of some words name a use. */
function useAtStart(words: string): number {
  const start = words.slice(0, 80);
  for (const [term] of USE_TERMS) {
    term.lastIndex = 0;
    const match = term.exec(start);
    term.lastIndex = 0;
    if (match?.index === 0) return match[0].length;
  }
  return 0;
}
const binds = remembered((clause) => forbids(clause, useAtStart) || asksFirst(clause, clause), MOST_REMEMBERED);

const each = (uses: readonly Use[], answer: Word): Answers => Object.fromEntries(uses.map((use) => [use, answer]));

/** Uses that are named one after another: "personal", "personal, educational and non-commercial use". */
const NAMED_TOGETHER =
  /\b(?:personal|private|home|hobby|non-? ?commercial|nonprofit|educational|web ?(?:site|page|font)?s?)(?:(?:, |\/| )(?:(?:and\/or|and|or) )?(?:personal|private|home|hobby|non-? ?commercial|nonprofit|educational|web ?(?:site|page|font)?s?))*(?: (?:uses?|projects?|purposes?|work))?\b/g;
const ONLY_BEFORE = /\b(?:only|solely|exclusively|strictly|just|purely|limited to|restricted to)\b[^,;]*$/;
const ONLY_AFTER = /^ ?(?:only|exclusively|solely)\b/;
/** So far before the uses the word may stand, itself included. */
const SHORTLY = 54;

/** "Personal use only", "for non-commercial purposes only", "only for personal use": the uses that are left. */
const onlyUses = remembered((clause): Use[] | undefined => {
  if (!ONLY.test(clause)) return undefined;
  const plain = clause.replace(/[ ,/]+/g, (run) => (run.includes(",") ? ", " : run.includes("/") ? "/" : " "));
  for (const match of plain.matchAll(NAMED_TOGETHER)) {
    const before = ONLY_BEFORE.exec(plain.slice(Math.max(0, match.index - SHORTLY), match.index));
    if (before) return usesIn(before[0] + match[0]);
    if (ONLY_AFTER.test(plain.slice(match.index + match[0].length, match.index + match[0].length + SHORTLY))) return usesIn(match[0]);
  }
  return undefined;
}, MOST_REMEMBERED);
const ONLY = /\b(only|solely|exclusively|strictly|just|purely|limited|restricted)\b/;

/** Joins that begin a thought of its own. */
const CLAUSES =
  / ?(?:;|:|,\s*(?=[a-z ]{1,40} (?:is|are) not\b)|\bbut\b|\bhowever\b|\balthough\b|\bthough\b|\bwhile\b|\bwhereas\b|,\s*(?=(?:and |or )?(?:for|if|not|no|get|buy|commercial|any commercial|you|please|except|unless|contact|buy|donation)\b)|\s[–—-]\s|\((?=not|no|for|commercial|please|donation)|\))\s*/;

function readClause(clause: string, before: string): Answers {
  const only = onlyUses(clause);
  if (only && only.length > 0 && !/\b(not|isn't|isn’t|never|no longer) (limited|restricted|only|just)\b/.test(clause)) {
    if (only.includes("web") && !only.includes("own")) return {};
    // "Only" closes every use that is for money; what lies between is left unsaid.
    return {
      ...each(
        only.filter((use) => use !== "sold" && use !== "client"),
        "yes",
      ),
      ...each(COMMERCIAL, "no"),
    };
  }
  const uses = usesIn(clause);
  const any = ANY_USE.test(clause);
  const denies = forbids(clause.replace(ANY_USE, " "), useAtStart);
  const requires = asksFirst(clause.replace(CREDIT_REQUIRED, " "), before);
  const credit = CREDIT_REQUIRED.test(clause);
  const asks = /\bgratis\b/.test(clause) && /\bdonat/.test(before);
  if (uses.length === 0 && !any) return {};
  if (denies || requires) {
    // "No" is said for the uses that are named and nothing else; own use is never closed by half-understood words.
    const closed = uses.filter((use) => use !== "own" || /\b(not|no|neither|nor)\b/.test(clause));
    if (denies && requires)
      return each(
        closed.filter((use) => use === "sold" || use === "client"),
        "no",
      );
    return each(closed, "no");
  }
  // What is denied and not understood is no permission.
  if (takesBack(clause.replace(ANY_USE, " "))) return {};
  const permits = PERMITS.test(clause);
  if (!permits) {
    if (credit && uses.length > 0) return each(uses, "credit");
    // "Use it as you like" permits by itself; a wish for a donation does not.
    if (any && /\b(public domain|use it|use them|use this|do (what|whatever))\b/.test(clause)) return each(ALL, credit ? "credit" : "yes");
    if (asks || !/\bgratis\b/.test(clause)) return {};
  }

  return each(any ? ALL : uses, credit ? "credit" : "yes");
}

const SPEAKS =
  /personal|privat|home|hobby|commerc|profit|paid|business|profession|client|customer|sell|sold|sale|merchandise|giv|gift|charit|school|classroom|church|embed|pdf|book|video|film|movie|broadcast|tele|\btv\b|stream|web|online|font-face|\bany|\ball\b|\bevery|whatever|restrict|domain|freely|purpose|\b(like|please|wish|want)\b/i;
/** Whether a sentence may say anything of uses: most say nothing, and are not looked at closely. */
export const maySpeak = (text: string): boolean => SPEAKS.test(text);

/** What a sentence says, as far as that can be told without knowing what the fonts are called. */
export interface Said {
  answers: Answers;
  /** Words that are neither known nor names by the look of them, in small letters. */
  unknown: readonly string[];
  /** What it says when all unknown words are parts of the fonts' names; the same as `answers` when there are none. */
  named: Answers;
  /** Why it is no statement and counts for nothing, whatever its words would say. */
  aside?: Aside;
}

/**
 * What one sentence says of uses. Empty answers when it says nothing, or nothing that is understood for certain. Source of the phrasings:
 * common practice, no source.
 */
export const readSentence = ({ text, foreign = false }: Spoken): Readonly<Said> => (foreign ? readForeign : readEnglish)(text);
const readEnglish = remembered((text) => readOnce(text, false), MOST_REMEMBERED);
const readForeign = remembered((text) => readOnce(text, true), MOST_REMEMBERED);
function readOnce(text: string, foreign: boolean): Said {
  const original = tidy(text);
  let plain = original;
  for (const [turn, meaning] of TURNS) plain = plain.replace(turn, meaning);
  const aside = onlyOfFiles(plain) ? "files" : asideOf(plain);
  const said = readWords(plain, original, foreign ? new Set() : namesIn(text));
  return aside ? { ...said, aside } : said;
}

export interface Spoken {
  text: string;
  /** It was put into English word for word: its capitals name nothing. */
  foreign?: boolean;
}

const tidy = (text: string): string =>
  (/[^\u0000-\u007f]/.test(text) ? text.normalize("NFKC") : text).toLowerCase().replace(/[“”"]/g, "").replace(/\s+/g, " ");

/** Whether a sentence asks for credit and names no use. */
export const asksForCredit = remembered(credits, MOST_REMEMBERED);
function credits(text: string): boolean {
  if (text.length > 300) return false;
  let plain = tidy(text);
  for (const [turn, meaning] of TURNS) plain = plain.replace(turn, meaning);
  return CREDIT_REQUIRED.test(plain) && usesIn(plain).length === 0 && !speaksOfFiles(plain) && asideOf(plain) === undefined;
}

/** A rule of its own beside one about the font files: "but you may sell what you make with it". */
const OWN_RULE =
  /^ ?(and |so )?(you|one|anything|things|goods|products|items|work|works|what you make|commercial use|personal use|use of)\b[^,;]{0,60}\b(may|can|must|is|are|need|should)\b/;

const clausesIn = (plain: string): string[] => plain.split(CLAUSES).filter((clause) => clause && /[a-z]/.test(clause));
/** The clauses of a sentence that may speak of uses: what says of the font files in it is left out where the rest is a rule of its own. */
function clausesOf(plain: string): string[] {
  const all = clausesIn(plain);
  const rest = all.filter((clause) => !speaksOfFiles(clause));
  return rest.length < all.length && rest.some((clause) => OWN_RULE.test(clause)) ? rest.filter((clause) => OWN_RULE.test(clause)) : all;
}
const onlyOfFiles = (plain: string): boolean =>
  speaksOfFiles(plain) && !clausesIn(plain).some((clause) => !speaksOfFiles(clause) && OWN_RULE.test(clause));

function readWords(plain: string, original: string, names: ReadonlySet<string>): Said {
  const unknown = new Set<string>();
  const clauses = clausesOf(plain);
  const found: Answers = {};
  let carried = "";
  for (const clause of clauses) {
    // "If you sell things, please buy a licence": the condition names the use, what follows answers it.
    const conditional =
      onlyUses(clause) === undefined &&
      /^(and )?(if|for|when|in case|before|to use|using)\b/.test(clause.trim()) &&
      !PERMITS.test(clause) &&
      !binds(clause);
    if (conditional) {
      carried = clause;
      continue;
    }
    // "Commercial use: contact the maker." The use stands alone and is answered after the colon.
    const alone = clause.trim().split(" ").length <= 4 && usesIn(clause).length > 0 && onlyUses(clause) === undefined;
    if (alone && clauses.length > 1 && !PERMITS.test(clause) && !binds(clause)) {
      carried = carried ? `${carried} ${clause}` : clause;
      continue;
    }
    const whole = carried ? `${carried} ${clause}` : clause;
    const said = Object.entries(readClause(whole, original)) as [Use, Word][];
    // What a clause forbids may be said in any words; every other clause of the sentence must be understood.
    if (!said.some(([, answer]) => answer === "no") || said.some(([, answer]) => answer !== "no"))
      for (const word of unknownWords(clause, names)) unknown.add(word);
    for (const [use, answer] of said) {
      // Within one sentence the stricter word stands.
      if (found[use] === undefined || answer === "no" || (answer === "credit" && found[use] === "yes")) found[use] = answer;
    }
    carried = "";
  }
  // What is not understood keeps only what it forbids.
  const strict = Object.fromEntries(Object.entries(found).filter(([, answer]) => answer === "no")) as Answers;
  if (NOT_A_GRANT.test(original)) return { answers: strict, unknown: [], named: strict };
  // Whoever speaks of credit wants it, unless the sentence says that it is not needed.
  if (CREDIT_WORD.test(plain))
    for (const [use, answer] of Object.entries(found) as [Use, Word][]) found[use] = answer === "no" ? "no" : "credit";
  return { answers: unknown.size === 0 ? found : strict, unknown: [...unknown], named: found };
}

const CREDIT_WORD = /\b(credit(s|ed|ing)?|attribut\w+|acknowledg\w+|mention\w*|link(s|ed|ing)? back|cite[ds]?)\b/;

/**
 * Words a permission may be made of. A sentence with any other word is not taken for a permission: the other word may be the one that
 * takes it back.
 */
const VOCABULARY = new Set(
  `
  result results right rights grant grants hereby organisation organisations organization organizations else pays shirt shirts mug bag bags
  cup cups cushion cushions tag tags hand anybody's somebody people everyone's sure
  totally fully agree using installing give gives permission
  100 a about alike all allow allowed allows also always am an and any anybody anyhow anyone anything anything's anywhere
  appreciate appreciated are artist as as-is at attribution author back be been big board boards book books both broadcast
  broadcasting broadcasts brochures business businesses but by can card cards case charge charities charity church class classroom
  clear client clients comes commercial commercial-free commercial-use commercially complete completely content copyright cost
  cost-free costs countries country covered covers craft crafter crafters crafts create created creating credit credited credits
  customer design designer designers designs desire desktop digital do document documents does domain donation donations download
  downloaded due e-book e-books each ebook ebooks educational either embed embedded embedding enjoy entirely especially etc even
  ever every everybody everyone everything everywhere excellent exclusively extra family fee feel fees file files film film's
  films fine fits flyers font fonts for forever form free free-of-charge freedom freely freeware from full fully further gain gift
  gifts give given gives giving go good goods granted gratis great happy has have help here hesitate his hobby home however i if
  in include included includes including into invitations is it it's items its itself it’s job jobs just kind kindly kinds last
  lasting lasts leaflets letter letters licence licenced licences license licensed licenses like liked likes limit limitations
  limited limits line lines links logo logos long made magazine make maker making mandatory many marker markers matter may me
  media mention merchandise merely movies mugs music must my name necessary need needed needs never new nice no non non-commercial
  non-profit noncommercial nonprofit not note nothing obligatory of ok okay on one online only optional or our out own pack
  packaging page pages paper payment pdf pdfs per permission permits permitted personal personal-use personally please poster
  posters print printed printing prints private privately problem product products professional professionally profit project
  projects proper provided public publication publications purpose purposes release released require required requires restricted
  restriction restrictions royalty sale same school schools screen screens sell selling set sets shop shops sign signs size so
  software sold solely sort sorts stated stickers streaming strictly such suitable sure t-shirt t-shirts take television text
  thank thanks that that's that’s the their theirs them then there these they thing things this those time to too tv two type
  typeface typefaces types under unlimited unrestricted us usage use used useful user users uses using usual version very via
  video videos visible want wants way we web website websites welcome well what whatever whatsoever when where wherever whether
  which while who whoever whole whom wide will with within without word words work works worldwide worry would write yes you
  you're your yours yourself you’re
  `
    .split(/\s+/)
    .filter(Boolean),
);

/** Words that begin with a capital inside a sentence are names; at its start so is what is followed by another one. */
function namesIn(text: string): ReadonlySet<string> {
  const names = new Set<string>();
  for (const [, word] of text.matchAll(/(?<=[\s(“"])(\p{Lu}[\p{L}'’-]*)/gu)) names.add(word!.toLowerCase());
  const start = /^[“"(]?(\p{Lu}\p{L}+) \p{Lu}/u.exec(text);
  if (start) names.add(start[1]!.toLowerCase());
  return names;
}

/** The words of a clause, in small letters, that are neither known words nor names nor numbers. */
function unknownWords(clause: string, names: ReadonlySet<string>): string[] {
  const unknown: string[] = [];
  for (const [word] of clause.matchAll(/[\p{L}\p{N}][\p{L}\p{N}'’-]*/gu))
    if (!/^[\d.]+%?$/.test(word) && !names.has(word) && !VOCABULARY.has(word)) unknown.push(word);
  return unknown;
}
