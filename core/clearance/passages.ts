// Papers cut into passages: each sentence with its paragraph, and the part it plays there: said by the paper, quoted from mail, a question or
// its answer, an entry of a list of changes, a line of a program. Only what a paper itself says can be a statement.
import { sentencesOf } from "./sentences.ts";

export interface Passage {
  text: string;
  /** Where it starts, counted from 1. */
  line: number;
  part: "said" | "quoted" | "question" | "answer" | "change" | "code";
  /** The question an answer belongs to. */
  question?: string;
  /** Its paragraph's sentences, and its place among them. */
  paragraph: readonly { text: string }[];
  index: number;
}

interface Paragraph {
  lines: string[];
  /** Of its first line, counted from 1. */
  line: number;
}

const MOST_AROUND = 300;
/** What is shorter says nothing. */
const LEAST_CHARACTERS = 3;
/** "> words", and mail that was quoted in a line of its own: "> > words", "| words". */
const QUOTED = /^\s{0,8}(>|\|)/;
/** RFC 5322: the lines a message begins with. */
const MAIL_HEADER =
  /^\s*(>\s?)*(From|To|Cc|Date|Subject|Message-ID|Received|Reply-To|Delivered-To|Return-Path|In-Reply-To|MIME-Version|X-[A-Za-z-]{1,40}):\s/;
/** "2011-03-02", "3 March 2011", "Version 1.2", "v1.2", "1.2 (2011)" but not "1.2 You may", "fonts-furrow (1.2-3) unstable": an entry of changes begins. */
const ENTRY =
  /^\s{0,3}(#{1,6} |[*[=-]{0,3} ?)?(\d{4}[-/.]\d{1,2}[-/.]\d{1,2}\b|\d{1,2} \p{Lu}\p{Ll}{2,8}\.? \d{4}\b|(version|release|ver)\.? ?\d{1,4}(\.\d{1,4}){0,3}\b|v\d{1,4}(\.\d{1,4}){0,3}\b|\d{1,4}\.\d{1,4}(\.\d{1,4})?\]?\*{0,2}( ?(:|\(|–|—|- )|$)|[a-z][a-z0-9.+-]{1,60} \(\d)/iu;
/** Commands and markup, not sentences. */
const CODE = /^\s*(\$|#!|%|<\/?[a-z]|sudo |apt|npm |git |make |cd |import |@font-face\s*\{|src:|font-family:|\\[a-z]+\{)/;
const PROMPT = /^\s*(#{1,6}\s+|\*{1,2})?((Q|F|Question|Frage|FAQ)\s?\d{0,3}\s?[:.)]|\d{1,2}(\.\d{1,2}){0,2}[.):]?\s)/i;
const REPLY = /^\s*(\*{1,2})?((A|Answer|Antwort)\s?\d{0,3}\s?[:.)]|Response:|Re:)/i;
const AFFIRMS_OR_DENIES = /^\s*(\*{1,2})?(yes|no|sure|of course|certainly|absolutely|definitely|nope|yep|not at all|never)\b/i;

function paragraphsOf(text: string): Paragraph[] {
  const found: Paragraph[] = [];
  let current: Paragraph | undefined;
  for (const [i, line] of text.split("\n").entries()) {
    if (line.trim() === "") current = undefined;
    else if (current && !PROMPT.test(line) && !REPLY.test(line)) current.lines.push(line);
    else found.push((current = { lines: [line], line: i + 1 }));
  }
  return found;
}

/** Lines that belong to mail: those that are quoted, and all from a message's headers to the next line that cannot be of it. */
function partOf({ lines }: Paragraph, inMail: boolean): Passage["part"] {
  if (inMail || lines.filter((line) => QUOTED.test(line)).length * 2 > lines.length) return "quoted";
  if (lines.filter((line) => CODE.test(line)).length * 2 > lines.length) return "code";
  return "said";
}

/** What is left of a question's or an answer's text without its mark. */
const unmarked = (text: string): string =>
  text
    .replace(PROMPT, "")
    .replace(REPLY, "")
    .replace(/^[#*\s]+/, "");

/** A question that stands as a heading, and what follows it until the next heading. */
interface Open {
  question: string;
  /** Marked or numbered as one of several, so that everything below answers it; else only yes or no right after it does. */
  marked: boolean;
}

const isHeading = ({ lines }: Paragraph): boolean =>
  /^\s{0,3}#{1,6}\s/.test(lines[0]!) ||
  (lines.length === 2 && /^\s*[=_~^-]{3,}\s*$/.test(lines[1]!)) ||
  (lines.length === 1 && lines[0]!.trim().length < 60 && !/[.!?:,;]["”’)]?$/u.test(lines[0]!.trim()) && /^\s*\p{Lu}/u.test(lines[0]!));

/** Cuts a text into passages. Linear in its length. */
export function passagesOf(text: string): Passage[] {
  const found: Passage[] = [];
  let open: Open | undefined;
  let inMail = false;
  let inChanges = 0;
  for (const paragraph of paragraphsOf(text)) {
    const { lines, line } = paragraph;
    const first = lines[0]!;
    if (lines.length === 1 && first.trim().length < LEAST_CHARACTERS) continue;
    if (lines.filter((one) => MAIL_HEADER.test(one)).length >= 2) inMail = true;
    else if (/^(Files|License|Copyright):|^[=_-]{8,}\s*$/.test(first)) inMail = false;
    // Entries of changes follow one another; what is neither an entry nor its list ends them.
    if (ENTRY.test(first)) inChanges = 2;
    else if (inChanges > 0 && !lines.every((one) => /^\s*([-*+•]|\s{2,})/.test(one))) inChanges--;
    const part = partOf(paragraph, inMail);
    const sentences = sentencesOf(lines.map((one) => (part === "quoted" ? one.replace(/^[\s>|]+/, "") : one)).join("\n"));
    const push = (i: number, role: Passage["part"], question?: string) =>
      found.push({
        text: sentences[i]!.text,
        line: line + sentences[i]!.line - 1,
        part: role,
        ...(question === undefined ? {} : { question }),
        paragraph: sentences,
        index: i,
      });
    if (part !== "said") {
      for (const i of sentences.keys()) push(i, part);
      continue;
    }
    const isQuestion = (i: number) => sentences[i]!.text.endsWith("?");
    const asking = sentences.length > 0 && sentences.length <= 3 && isQuestion(sentences.length - 1);
    if (asking) {
      open = { question: unmarked(sentences.at(-1)!.text), marked: PROMPT.test(first) || /^\s{0,3}(#{1,6}\s|\*\*)/.test(first) };
      for (const i of sentences.keys()) push(i, isQuestion(i) ? "question" : "said");
      continue;
    }
    const replies = REPLY.test(first) || AFFIRMS_OR_DENIES.test(first);
    if (open && !replies && (!open.marked || PROMPT.test(first) || isHeading(paragraph))) open = undefined;
    let asked = open?.question;
    for (const i of sentences.keys()) {
      if (isQuestion(i)) {
        asked = unmarked(sentences[i]!.text);
        push(i, "question");
        continue;
      }
      const follows = i > 0 && isQuestion(i - 1);
      const answers = asked !== undefined && (open !== undefined || (follows && isAnswerTo(asked, sentences[i]!.text)));
      push(i, answers ? "answer" : inChanges > 0 ? "change" : "said", answers ? asked : undefined);
      if (!open && !answers) asked = undefined;
    }
    if (open && !open.marked) open = undefined;
  }
  return found;
}

/** Whether a sentence right after a question in running text answers it: with yes or no, or as what to do in the case it asks for. */
const isAnswerTo = (question: string, sentence: string): boolean =>
  AFFIRMS_OR_DENIES.test(sentence) || SUPPOSES.test(question) || NAMES_USE.test(question);
/** Questions that only name a use: "Commercial use?" */
const NAMES_USE = /^(for |any )?(commercial|personal|private|professional|business|client|web|video)[a-z ]{0,40}\??$/i;
/** Questions that only name a case: "Do you want to sell what you make?" */
export const SUPPOSES =
  /^(so,? |and |but )?(do you (want|need|wish|plan|intend|like|sell|make)|would you like|want(ing)? to|need|planning|interested in|looking to|are you (going|planning|a business|using|selling))\b/i;

/** What stands before and after a passage in its paragraph, each cut to 300 characters. */
export function aroundOf({ paragraph, index }: Passage): { before: string; after: string } {
  let [before, after] = ["", ""];
  for (let k = index - 1; k >= 0 && before.length < MOST_AROUND; k--) before = `${paragraph[k]!.text}${before && " "}${before}`;
  for (let k = index + 1; k < paragraph.length && after.length < MOST_AROUND; k++) after += `${after && " "}${paragraph[k]!.text}`;
  return { before: before.slice(-MOST_AROUND), after: after.slice(0, MOST_AROUND) };
}
