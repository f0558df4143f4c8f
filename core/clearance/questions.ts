// Questions and answers, read as pairs: what a yes or a no says depends on what was asked.
import { SUPPOSES } from "./passages.ts";

const MAY_I =
  /^(so,? |and |but |then |ok,? )?(can|may|could|am|are|is it)( (i|we|one|people|somebody|anyone|everybody))?( (still|also|really|legally|just|even|freely))?( (allowed|permitted|free|ok|okay|possible|legal|fine|all right|alright))?( for (me|us))?( to)? /i;
/** What is asked for must be a use: to see it, to change it, to get it are none. */
const USES_IT =
  /^((also|still|even|legally|freely|just|really|commercially) )*(use|using|sell|embed|print|make|create|put|apply|produce|design|earn|publish|give|do|work|set|employ|incorporate|place|utili[sz]e)\b/i;
const IS_IT =
  /^(is|are) (.{1,120}?) (allowed|permitted|ok|okay|free|included|covered|possible|fine|forbidden|prohibited)( (for|in|with|on|by) .{1,120})?$/i;
const IS_FREE =
  /^(is|are) (it|they|this font|the font|the fonts|these fonts|this typeface) ((really |completely )?free (for|to) .{1,160}|(for|licen[cs]ed for) .{1,160})$/i;
const NEEDED =
  /^(do|does|must|would) (i|we|one|you) (need|have to (buy|pay|get|have)|require|buy|pay|get) (an? |the |any |some )?(.{0,160})$/i;

const YES = /^(\*{0,2})(a: |answer: )?(yes|sure|of course|certainly|absolutely|definitely|yep|by all means|indeed)\b[*,.!:;–— -]*/i;
const NO =
  /^(\*{0,2})(a: |answer: )?(no|nope|not at all|never|certainly not|sorry,? no)(?=[*,.!:;–—-]|$| (you|it|this|they|that|not|sorry)\b)[*,.!:;–— -]*/i;
/** What only repeats the yes. */
const REPEATS =
  /^((of course|sure|certainly|absolutely|indeed|definitely|you|it|they|that|we|please|this)( (can|may|are|is|do|could))?|go ahead|no problem|that['’]s (fine|ok|okay|allowed)|allowed|it['’]s (fine|ok|okay|allowed|free)|(you|they)['’]re (free|welcome) to( do so)?|(you|it|they) (can|may|is|are) (allowed|permitted|free|fine)|please do|feel free|enjoy|you can do that)?[.! ]*$/i;
const ABOUT_LICENCES =
  /\b(licen[cs]\w*|allowed|permitted|permission|may (i|we)|can (i|we)|use (it|them|this|these|the fonts?)|terms|free|price|cost|commercial\w*|personal)\b/i;
const ABOUT_OTHERS = /^(why|how|who|where|when|which|will you|can you|could you|would you|do you have|is there|are there)\b/i;

/**
 * What an answer says as a sentence of its own: "May I use it commercially?" "Yes." says that it may be used commercially. Undefined when the
 * pair says nothing about what fonts may be used for.
 */
export function asStatement(asked: string, answer: string): string | undefined {
  const question = withoutEnd(asked);
  if (SUPPOSES.test(question)) return `If you ${question.replace(SUPPOSES, (start) => supposed(start))}, ${lowered(answer)}`;
  if (ABOUT_OTHERS.test(question)) return undefined;
  const [yes, no] = [YES.exec(answer), NO.exec(answer)];
  if (!yes && !no && isNoun(question)) return `For ${lowered(question)}, ${lowered(answer)}`;
  if (!yes && !no) return ABOUT_LICENCES.test(question) && !/^(is|are|can|may|do|does)\b/i.test(question) ? answer : undefined;
  const rest = answer.slice((yes ?? no)![0].length).trim();
  const more = yes && !REPEATS.test(rest) ? `, ${lowered(rest)}` : ".";
  const needed = NEEDED.exec(question);
  if (needed)
    return yes
      ? `You ${needed[3]} ${needed[5] ?? ""} ${needed[6] ?? ""}${more}`
      : `You do not ${needed[3]} ${needed[5] ?? ""} ${needed[6] ?? ""}.`;
  const free = IS_FREE.exec(question);
  if (free) return `It is ${yes ? "" : "not "}${free[3]}${yes ? more : "."}`;
  const is = IS_IT.exec(question);
  if (is) return `${is[2]} is ${yes ? "" : "not "}${is[3]}${is[4] ?? ""}${yes ? more : "."}`;
  const may = MAY_I.exec(question);
  if (may && !USES_IT.test(question.slice(may[0].length))) return undefined;
  if (may && /^(can|may|could|am|are|is it)/i.test(question))
    return `You may ${yes ? "" : "not "}${question.slice(may[0].length)}${yes ? more : "."}`;
  // "Commercial use? Sure!"
  if (isNoun(question))
    return /\b(free|allowed|permitted|ok|okay)\b/i.test(question)
      ? `It is ${yes ? "" : "not "}${lowered(question)}${yes ? more : "."}`
      : `${question} is ${yes ? "" : "not "}allowed${yes ? more : "."}`;
  return undefined;
}

/** Without the marks it ends with. */
function withoutEnd(asked: string): string {
  let end = asked.length;
  while (end > 0 && /[?\s"“”*]/.test(asked[end - 1]!)) end--;
  return asked.slice(0, end).trim();
}
const ASKS = /^(so |and |but )?(why|how|who|where|when|which|what|is|are|am|can|may|could|will|would|should|do|does|did|has|have|must)\b/i;
/** "Commercial use?": a use that is only named. */
const isNoun = (question: string): boolean => !ASKS.test(question) && !SUPPOSES.test(question) && question.split(/\s+/).length <= 6;
const lowered = (words: string): string => words.charAt(0).toLowerCase() + words.slice(1);

/** "Do you want to sell it" begins as "want to sell it" after "if you". */
const supposed = (start: string): string => {
  const verb = /(want|need|wish|plan|intend|like|sell|make|using|selling|a business)/i.exec(start)?.[1]?.toLowerCase() ?? "want";
  if (verb === "using") return "use";
  if (verb === "selling") return "sell";
  if (verb === "a business") return "are a business";
  return /to$/i.test(start) ? `${verb} to` : verb;
};
