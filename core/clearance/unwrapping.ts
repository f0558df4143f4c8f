// Whether papers forbid taking a web font out of its packing.
import type { Sentence } from "./sentences.ts";

const FORBIDS = /\b(not|no|never|neither|nor|without|prohibit\w*|forbid\w*|forbidden|disallow\w*|illegal)\b/i;
const CONVERTS =
  /\b(convert\w*|conversion|unwrap\w*|unpack\w*|decompress\w*|decompil\w*|reverse[- ]engineer\w*|other formats?|another format|different formats?|install\w*|desktop)\b/i;
const WEB_ONLY =
  /\b(web(site|page)?s?|web ?fonts?|online|@font-face|self[- ]host\w*)\b.{0,40}\bonly\b|\bonly\b.{0,60}\b(web(site|page)?s?|web ?fonts?|online)\b/i;

/** The first of some sentences that forbids unwrapping, or allows the font on web pages only; undefined when none does. */
export function forbiddingSentence(sentences: readonly Sentence[]): Sentence | undefined {
  const found = sentences.find(({ text }) => (FORBIDS.test(text) && CONVERTS.test(text)) || WEB_ONLY.test(text));
  return found && { text: found.text, line: found.line };
}
