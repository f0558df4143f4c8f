// What reading one document may cost, all its pages and style sheets together.
import { tooMuch } from "../markup.ts";

/** So many elements are held against so many rules. */
const MOST_MATCHES = 20_000_000;
/** What taking a declaration costs, in matches. */
const TAKEN = 20;
/** Rules, and declarations, names and selectors in them; the largest frameworks have a tenth. */
const MOST_RULES = 100_000;
const MOST_DECLARATIONS = 400_000;
/** Words and brackets: a sheet of a megabyte has a tenth. */
const MOST_WORDS = 2_000_000;
const MOST_NESTED = 100;
/** Faces a document declares; a font in many pieces has some hundred. */
const MOST_FACES = 4000;

const [BRACE, CLOSING, SEMICOLON, COMMA, COLON] = [0x7b, 0x7d, 0x3b, 0x2c, 0x3a];
/** Fonts and pictures that stand in a sheet: however long, each is one word. */
const PACKED = /;base64,[A-Za-z0-9+/=%]*/g;

/** Throws "evidence-too-large" where it is spent, with the limit's name. */
export class Effort {
  private matches = MOST_MATCHES;
  private rules = MOST_RULES;
  private declarations = MOST_DECLARATIONS;
  private words = MOST_WORDS;
  private faces = MOST_FACES;
  match(count: number): void {
    if ((this.matches -= count) < 0) throw tooMuch("elements by rules");
  }
  take(declarations: number): void {
    this.match(TAKEN * declarations);
  }
  face(): void {
    if (--this.faces < 0) throw tooMuch("faces declared");
  }
  /** Counted before it is parsed: what a sheet is made of costs more than its bytes. */
  sheet(whole: string): void {
    const text = whole.replace(PACKED, "");
    let [depth, inWord] = [0, false];
    for (let i = 0; i < text.length; i++) {
      const sign = text.charCodeAt(i);
      const wordly = sign > COMMA && sign !== BRACE && sign !== CLOSING && sign !== SEMICOLON && sign !== COLON;
      if ((!wordly || !inWord) && --this.words < 0) throw tooMuch("words of style sheets");
      inWord = wordly;
      if (sign === BRACE) {
        if (--this.rules < 0) throw tooMuch("rules");
        if (++depth > MOST_NESTED) throw tooMuch("rules within rules");
      } else if (sign === CLOSING) depth = Math.max(0, depth - 1);
      else if ((sign === SEMICOLON || sign === COMMA) && --this.declarations < 0) throw tooMuch("declarations");
    }
  }
}
