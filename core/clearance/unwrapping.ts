// Whether papers forbid taking a web font out of its packing.
import { sentencesOf, type Sentence } from "./sentences.ts";

const FORBIDS = /\b(not|no|never|neither|nor|without|prohibit\w*|forbid\w*|forbidden|disallow\w*|illegal)\b/i;
const CONVERTS =
  /\b(convert\w*|conversion|unwrap\w*|unpack\w*|decompress\w*|decompil\w*|reverse[- ]engineer\w*|other formats?|another format|different formats?|install\w*|desktop)\b/i;
const WEB_ONLY =
  /\b(web(site|page)?s?|web ?fonts?|online|@font-face|self[- ]host\w*)\b.{0,40}\bonly\b|\bonly\b.{0,60}\b(web(site|page)?s?|web ?fonts?|online)\b/i;

export interface Forbidding extends Sentence {
  /** Where it stands: the paper's path or the name field. */
  where: string;
}

/** The first sentence that forbids unwrapping, or that allows the font on web pages only; undefined when none does. */
export function forbidsUnwrapping(texts: readonly { where: string; text: string }[]): Forbidding | undefined {
  for (const { where, text } of texts) {
    for (const sentence of sentencesOf(text)) {
      if ((FORBIDS.test(sentence.text) && CONVERTS.test(sentence.text)) || WEB_ONLY.test(sentence.text)) return { ...sentence, where };
    }
  }
  return undefined;
}
