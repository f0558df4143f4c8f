// Names in archives that do not say how they are written: judged by the letters each encoding makes of all of them together.
import iconv from "iconv-lite";

export interface NameEncoding {
  /** As people call it. */
  words: string;
  /** Undefined when the bytes are none of its. */
  decode: (bytes: Uint8Array) => string | undefined;
  /** For two bytes that make one character: how usual that character is. */
  usual?: (lead: number, trail: number) => number;
}

/** Code pages in which every byte is a character. */
const byTable = (page: string) => (bytes: Uint8Array) => iconv.decode(bytes, page);
function byDecoder(label: string): NameEncoding["decode"] {
  const decoder = new TextDecoder(label, { fatal: true });
  return (bytes) => {
    try {
      return decoder.decode(bytes);
    } catch {
      return undefined;
    }
  };
}
/** Two-byte sets keep their usual characters in rows of their own (JIS X 0208 level 1, GB 2312 level 1, Big5 level 1, KS X 1001 syllables). */
const within =
  (from: number, to: number, least = 0) =>
  (lead: number, trail: number) =>
    lead >= from && lead <= to && trail >= least ? 0.6 : -0.6;
/** The format's own default (PKWARE APPNOTE, appendix D: code page 437) stands first: of equals it is taken. */
const ENCODINGS: readonly NameEncoding[] = [
  { words: "code page 437", decode: byTable("cp437") },
  { words: "Western European (Windows-1252)", decode: byDecoder("windows-1252") },
  { words: "Japanese (Shift JIS)", decode: byDecoder("shift_jis"), usual: within(0x88, 0x97) },
  { words: "Chinese (GBK)", decode: byDecoder("gbk"), usual: within(0xb0, 0xd7, 0xa1) },
  { words: "Chinese (Big5)", decode: byDecoder("big5"), usual: within(0xa4, 0xc6) },
  { words: "Korean (EUC-KR)", decode: byDecoder("euc-kr"), usual: within(0xb0, 0xc8, 0xa1) },
  { words: "Cyrillic (Windows-1251)", decode: byDecoder("windows-1251") },
  { words: "Cyrillic (code page 866)", decode: byDecoder("ibm866") },
  { words: "Hebrew (Windows-1255)", decode: byDecoder("windows-1255") },
  { words: "Hebrew (code page 862)", decode: byTable("cp862") },
  { words: "Greek (Windows-1253)", decode: byDecoder("windows-1253") },
  { words: "Central European (Windows-1250)", decode: byDecoder("windows-1250") },
];

const SCRIPTS = (
  [
    ["latin", /\p{Script=Latin}/u],
    ["greek", /\p{Script=Greek}/u],
    ["cyrillic", /\p{Script=Cyrillic}/u],
    ["hebrew", /\p{Script=Hebrew}/u],
    ["kana", /[\p{Script=Hiragana}\p{Script=Katakana}ー]/u],
    ["han", /[\p{Script=Han}々]/u],
    ["hangul", /\p{Script=Hangul}/u],
  ] as const
).map(([script, test]) => ({ script, test }));
const scriptOf = (character: string): string | undefined =>
  /\p{L}|ー|々/u.test(character) ? (SCRIPTS.find(({ test }) => test.test(character))?.script ?? "other") : undefined;

/** Signs that stand in names now and then. */
const ORDINARY_SIGN = /[’‘“”–—°®©™ªº·・「」『』（）【】［］、。〜～！？＆＋－　\u00a0]/u;
/** Letters of the Latin script that hardly any name holds. */
const RARE_LATIN = /[ÿƒÐðÞþµˆŸ×÷]/u;
/** Syllables many Korean words are made of (from memory): texts of other languages taken for Korean are made of the others. */
const USUAL_HANGUL = new Set(
  "가각간감강개거건것게겨결경계고곡골공과관교구국군권그글금기꼴나남내너네노누눔는니다단당대더도독동되두들등디딕딩라락란람래량러럭레려력련령로료록루류르른를름리린림마만많말매먼메면명모목못무문물미민바박반받발방배법변별병보복본부북분불비빛사산살상새색생서석선설성세소손쇄수순쉬스시식신실아안않알애야약양어언얼업없에여역연열영예오옥온올와완왕요용우운울원월위유육으은을음의이인일읽임입자작장재저적전점정제조종좌주죽준중지직진집차참창책처천체초총최추출치친카코콘크타탁태터토통트특티파판패펜편평포폰표푸품프필하학한함합해행향허현형호홈화활황회효후휴희히힘굵굴체께꽃손글씨",
);
const CYRILLIC_VOWEL = /[аеёиоуыэюяіїєў]/iu;
/** й follows vowels, ъ stands before some of them, neither begins a word with ь: what breaks that is another alphabet taken for this one. */
function oddCyrillic(before: string, character: string, after: string): boolean {
  const low = character.toLowerCase();
  if (low === "й") return scriptOf(before) === "cyrillic" && !CYRILLIC_VOWEL.test(before);
  if (low === "ъ") return !/[еёюя]/iu.test(after);
  return (low === "ь" || low === "ы") && scriptOf(before) !== "cyrillic";
}

const HEBREW_FINAL = /[ךםןףץ]/u;
const HALF_WIDTH = /[\uff61-\uff9f]/u;
const isUpper = (character: string): boolean => character !== character.toLowerCase();

/** How much like a name some text reads, for each byte beyond ASCII. */
function readsLikeName(text: string, bytes: Uint8Array, { usual }: NameEncoding): number {
  const characters = [...text];
  let sum = 0;
  let at = 0;
  let run = 0;
  for (const [i, character] of characters.entries()) {
    const code = character.codePointAt(0)!;
    const wide = usual !== undefined && bytes[at]! >= 0x80 && !HALF_WIDTH.test(character);
    const [lead, trail] = [bytes[at]!, bytes[at + 1] ?? 0];
    at += wide ? 2 : 1;
    if (code < 0x80) {
      run = 0;
      continue;
    }
    if (code === 0xfffd || code < 0xa0) return -Infinity;
    const script = scriptOf(character);
    const [before, after] = [characters[i - 1] ?? "", characters[i + 1] ?? ""];
    const beside = [before, after].flatMap((one) => scriptOf(one) ?? []);
    run++;
    let worth: number;
    if (script === undefined) worth = ORDINARY_SIGN.test(character) ? -0.2 : -2;
    else if (HALF_WIDTH.test(character)) worth = -0.4;
    else if (script === "latin") {
      worth = RARE_LATIN.test(character) ? -1 : run >= 3 ? -1 : beside.includes("latin") ? 0.6 : -0.3;
      if (isUpper(character) && before !== before.toUpperCase()) worth -= 1;
      if (beside.some((one) => one !== "latin")) worth -= 1;
    } else if (script === "other") worth = -0.5;
    else if (script === "kana") worth = 1.6;
    else if (script === "han" || script === "hangul") {
      worth = script === "hangul" ? (USUAL_HANGUL.has(character) ? 1.5 : -0.3) : 0.5 + (usual?.(lead, trail) ?? 0);
      if (beside.includes("cyrillic") || beside.includes("greek")) worth -= 1;
    } else {
      // Alphabets stand among their own.
      worth = beside.includes(script) ? 1 : -0.5;
      if (beside.some((one) => one !== script)) worth -= 1;
      if (isUpper(character) && before !== before.toUpperCase() && scriptOf(before) === script) worth -= 1.5;
      if (script === "cyrillic" && oddCyrillic(before, character, after)) worth -= 2;
      if (HEBREW_FINAL.test(character) && scriptOf(after) === "hebrew") worth -= 1.5;
    }
    sum += worth * (wide ? 2 : 1);
  }
  return sum;
}

/** So many names are enough to judge by. */
const MOST_JUDGED = 500;
/** A rival that reads so much better, by the byte, takes the place of the format's own default. */
const CLEARLY = 0.12;

/** The encoding in which names read most like names. They must not be plain ASCII or UTF-8; with none of that kind the format's default. */
export function guessEncoding(names: readonly Uint8Array[]): NameEncoding {
  const judged = names.slice(0, MOST_JUDGED);
  const beyond = judged.reduce((sum, name) => sum + name.filter((byte) => byte >= 0x80).length, 0);
  let best = { encoding: ENCODINGS[0]!, worth: -Infinity };
  for (const encoding of ENCODINGS) {
    let sum = 0;
    for (const name of judged) {
      const text = encoding.decode(name);
      sum += text === undefined ? -Infinity : readsLikeName(text, name, encoding);
    }
    const worth = sum / Math.max(1, beyond);
    if (worth > best.worth + (best.encoding === ENCODINGS[0] ? CLEARLY : 0)) best = { encoding, worth };
  }
  return best.encoding;
}
