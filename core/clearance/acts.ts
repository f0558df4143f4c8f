// What a clause does to the uses it names: it forbids them, or asks for something first. Words alone are not enough: a "not" forbids only
// when it stands before a permission, a verb of use, or the use itself. Phrasings: common practice, no source.

/** "No", "nothing", "never" and the like; "not" and its short forms are told apart from them. */
const NEGATIVE = new Set(["no", "never", "nothing", "none", "neither", "nor", "nobody"]);
/** Words before "not" that make it a rule: "may not", "are not", "do not". */
const MODAL = new Set(["may", "can", "must", "should", "shall", "will", "do", "does", "is", "are", "to"]);
/** "You may not use", "do not use", "users cannot use": whoever reads is meant. Anybody else who cannot use something only tells of it. */
/** Whose "does not allow" is a rule about the fonts. */
const RULER =
  /\b(licen[cs]es?|eula|agreement|terms|it|this|that|which|fonts?|typeface|version|pack|package|price|purchase|i|we|author|maker|designer|download|copyright|law|demo|trial|edition|release)\b/;
/** "Web fonts are not included" says what is in the archive; "web use is not included" what is allowed. */
const INCLUDES = new Set("included include includes covered cover covers part".split(" "));
const OF_LICENCE = /\b(use|usage|uses|licen[cs]\w*|work|purposes|broadcast\w*|embedding|rights?|price|agreement)\b/;
const GRANTS = new Set("allow permit cover include grant authorise authorize".split(" "));
const READER = new Set([
  "",
  "you",
  "please",
  "users",
  "anyone",
  "anybody",
  "people",
  "customers",
  "buyers",
  "and",
  "or",
  "but",
  "then",
  "so",
  ",",
  ":",
]);
const PERMISSION = new Set(
  (
    "allowed permitted licensed licenced granted covered included authorised authorized free welcome okay ok fine part " +
    "allow allows permit permits cover covers include includes grant grants authorise authorize right permission"
  ).split(" "),
);
const USE_VERB = new Set(
  (
    "use used using utilise utilised utilize utilized sell sold selling embed embedded embedding print printed put place placed apply applied " +
    "make made making employ employed incorporate incorporated exploit exploited earn broadcast"
  ).split(" "),
);
/** Words between "not" and the use it closes: "not for any commercial use". */
const BETWEEN = new Set(
  "intended suitable meant designed for be any in the of a an as with on at all use used using your our kind kinds or and made".split(" "),
);
/** So many words later the verb may come: "may not, under any circumstances whatsoever, be used". */
const REACH = 9;

const PROHIBITS =
  /\b(prohibit(ed|s)?|forbidden|forbids?|disallow(ed|s)?|excluded|excludes?|excluding|illegal|unlawful|banned|theft|stealing|refrain|except|other than|rather than|breach\w*|violat\w*|infring\w*)\b/;

/** What is prohibited must be a use: of the fonts, for money, in documents. */
const A_USE =
  /\b(use|uses|usage|using|used|utili[sz]\w*|commercial\w*|embedd\w*|selling|sell|sold|sale|licen[cs]e|purposes|projects|copyright|paying|profit|business)\b/;

const isShort = (word: string): boolean => /n['’]t$/.test(word) || word === "cannot";

/** What may follow a use that "no" closes: "no commercial use without a licence", but not "no commercial foundry". */
const AFTER_USE =
  /^[^\p{L}]*$|^[ ,;:.!)]*(use|uses|usage|using|purposes?|projects?|products?|work|works|things|jobs?|without|unless|or|and|of|on|at|please|is|are|allowed|permitted|with|in|for|by|until|before|whatsoever|either|here|ever|licen[cs]e|rights?|embedding|that|this|it|these)\b/u;

const IS_USE =
  /commercial|profit|paid|business|personal|private|sell|sold|sale|embed|use|usage|work|projects?|purposes?|products?|merchandise/;

/** A clause's words, with where each stands. */
interface Words {
  clause: string;
  all: RegExpExecArray[];
  word(i: number): string;
}

/** Whether a negative at `i` is a rule about the verb at `k`: for the reader ("do not use"), or in the passive ("may not be used"). */
function rules({ word }: Words, i: number, k: number): boolean {
  const passive = Array.from({ length: k - i - 1 }, (_, n) => word(i + 1 + n)).some((one) => one === "be" || one === "being");
  if (NEGATIVE.has(word(i))) {
    if (word(i) === "never" && i === 0) return true;
    for (let n = Math.max(0, i - 2); n < k; n++) if (n !== i && MODAL.has(word(n)) && word(n) !== "to") return passive || word(n) !== "is";
    return false;
  }
  const short = isShort(word(i));
  // "We ask you not to use it in films."
  if (word(i) === "not" && word(i - 1) === "you" && word(i + 1) === "to") return true;
  if (!short && !MODAL.has(word(i - 1))) return false;
  // "It isn't embedded" tells how it is; "it may not be embedded" is a rule.
  const tells = short ? /^(is|are|was|were|has|have)n/.test(word(i)) : ["is", "are"].includes(word(i - 1));
  if (tells) return passive || word(i + 1) === "to";
  return passive || READER.has(word(short ? i - 1 : i - 2));
}

/**
 * Whether a clause, in small letters, forbids. `namesUse` gives how many characters at the beginning of some words name a use ("commercial
 * use", "web pages"); 0 when none does.
 */
export function forbids(clause: string, namesUse: (words: string) => number): boolean {
  if (PROHIBITS.test(clause) && A_USE.test(clause)) return true;
  if (!takesBack(clause)) return false;
  const all = [...clause.matchAll(/[\p{L}\p{N}][\p{L}\p{N}'’-]*|[,:]/gu)];
  const words: Words = { clause, all, word: (i) => all[i]?.[0] ?? "" };
  return all.some(({ 0: word }, i) => (NEGATIVE.has(word) || word === "not" || isShort(word)) && forbidsAt(words, i, namesUse));
}

function forbidsAt(words: Words, i: number, namesUse: (words: string) => number): boolean {
  const { all, clause, word } = words;
  // "Television is not.", "Commercial use: no": what was named before is denied.
  if (i === all.length - 1) return i > 0 && word(i) !== "none" && word(i) !== "nothing";
  for (let k = i + 1; k < all.length && k <= i + REACH; k++) {
    if (GRANTS.has(word(k)) && !RULER.test(clause.slice(0, all[i]!.index))) continue;
    if (INCLUDES.has(word(k)) && !OF_LICENCE.test(clause)) continue;
    if (PERMISSION.has(word(k))) return true;
    if (USE_VERB.has(word(k)) && rules(words, i, k)) return true;
  }
  let k = i + 1;
  while (k < all.length && (BETWEEN.has(word(k)) || (word(k) === "to" && word(k + 1) === "be"))) k++;
  // Of verbs the rules above have decided: "it isn't embedded" forbids nothing.
  if (k >= all.length || (USE_VERB.has(word(k)) && !NEGATIVE.has(word(i)))) return false;
  const rest = clause.slice(all[k]!.index);
  const length = namesUse(rest);
  if (length === 0 || !AFTER_USE.test(rest.slice(length, length + 60))) return false;
  // "No web fonts" says what there is not; "no web use" and "not for web pages" are rules.
  return k > i + 1 || IS_USE.test(rest.slice(0, length)) || /^[ ]*(use|usage|uses)\b/.test(rest.slice(length));
}

/** Words that may take back what is allowed beside them, whether or not what they say is understood. */
const TAKES_BACK =
  /\b(not|no|never|cannot|nothing|none|neither|nor|nobody|except|unless|other than|rather than|excluding|without|prohibit\w*|forbid\w*|disallow\w*|illegal|only if|only when)\b|n['’]t\b/;
/** Turns that take nothing back. */
const FREELY = /\bwithout( any)? (further )?(restrictions?|limits?|limitations?|conditions?|exceptions?|notice)\b/g;
export const takesBack = (clause: string): boolean => TAKES_BACK.test(clause.replace(FREELY, " "));

/** What must be had first, in so many words. */
const HAD_FIRST =
  /\b(requires?|required|need(s|ed)?|get|gets|obtain|have|has|acquire|order|request|only with|only after|after (buying|purchasing|paying)|with(out)?|subject to)\b[^.]{0,40}?\b(licen[cs](es?|ing)|permission|consent|agreement|fees?|payment|approval|authori[sz]ation|donation)\b/;
const BUYS =
  /\b((must|please|have to|has to|need to|needs to|should|first|then|to|you can|and|,) (first |also )?(buy|purchase|donate|upgrade|pay(?! attention))\b(?! (a|some|good|other|more|new) (?!licen|commercial|full|extended|paid|web|desktop|separate|version|font|copy|fee))|^ ?(buy|purchase|donate|pay) (for|me|us|a|an|the|first|before|it|to|our|my)\b|(buy|purchase) (((a|an|the|our|my|your|its|full|commercial|extended|separate|desktop|web|proper|valid) )+(licen[cs]\w*|fonts?|version|pack|package|copy)|it)\b|must be (paid|bought|purchased|licen[cs]ed)|payment is due|payable|(is|are) charged|costs? extra|(paid|full|pro|extended|commercial|web) (version|licen[cs]e|licensing)|(licen[cs]e|permission|consent|fee|payment|purchase|donation|approval|agreement)s? (is |are |must be |has to be )?(required|needed|necessary|mandatory|obtained|paid|bought|purchased|sold separately)|permission (first|from)|as long as you (pay|buy|own a|have a|hold a)|(supporters|subscribers|members|customers|patrons) only|on request|upon request|by arrangement)\b/;
/** "Contact me" answers a use only where it does not offer help. */
const CONTACTS =
  /\b(contact(?! (your|their|its|his|her))|ask (me|us|first|the)|e-?mail|get in touch|write (to|me|us)|mail (me|us)|talk to us|reach out)\b/;
const FOR_USE = /\b(for|if|before|when|prior|use|usage|using|licen[cs]\w*|purposes?|permission)\b/;
const OFFERS_HELP =
  /\b(help|support|questions?|problems?|trouble|issues?|bugs?|feedback|suggest\w*|comments?|contribut\w*|hello|report\w*|news|about (our|my|other|the other))\b/;

/**
 * Whether a clause, in small letters, asks for a licence, for money or for leave first: as long as it is not had, the answer is no. `sentence` is
 * the whole of what it stands in.
 */
export const asksFirst = (clause: string, sentence: string): boolean =>
  HAD_FIRST.test(clause) || BUYS.test(clause) || (CONTACTS.test(clause) && FOR_USE.test(clause) && !OFFERS_HELP.test(sentence));
