// Which of a run's fonts sets a character: office documents name one for each kind of script.

export type Slot = "ascii" | "hAnsi" | "eastAsia" | "cs";
const EAST_ASIAN = /[\u1100-\u11ff\u2e80-\u9fff\ua960-\ua97f\uac00-\ud7ff\uf900-\ufaff\ufe30-\ufe4f\uff00-\uffef]|[\u{20000}-\u{3fffd}]/u;
/** Scripts that office documents call complex (ISO/IEC 29500-1, 17.3.2.26; ISO/IEC 26300-1, 19.509 "style:script-type"). */
const COMPLEX = /[\u0590-\u08ff\u0900-\u0dff\u0e00-\u0fff\u1000-\u109f\u1780-\u17ff\u1800-\u18af\ufb1d-\ufdff\ufe70-\ufefe]/u;

const slotOf = (character: string): Slot => {
  if (character.codePointAt(0)! < 0x80) return "ascii";
  if (EAST_ASIAN.test(character)) return "eastAsia";
  return COMPLEX.test(character) ? "cs" : "hAnsi";
};

/** A text cut where the kind of script changes; spaces and marks of ASCII stay with what they follow when `sticky`. */
export function* bySlot(text: string, sticky: boolean): Generator<[slot: Slot, part: string]> {
  let [slot, part]: [Slot | undefined, string] = [undefined, ""];
  for (const character of text) {
    const own = slotOf(character);
    const next: Slot = sticky && slot !== undefined && own === "ascii" && !/[A-Za-z0-9]/.test(character) ? slot : own;
    if (next !== slot && part !== "") {
      yield [slot!, part];
      part = "";
    }
    slot = next;
    part += character;
  }
  if (part !== "") yield [slot!, part];
}
