// Words drawn in a font of the library.
import { Text, View } from "react-native";
import { SCRIPT_NAMES } from "../../core/coverage/script-list.ts";
import { scriptOf } from "../../core/coverage/script-of.ts";
import type { Specimen as SpecimenFacts } from "../../contract/families.ts";
import { useScriptWords } from "../data/words.ts";
import { familyOf, useFontFace } from "../web/fontfaces.ts";
import { useInView } from "../web/inView.ts";
import { Small } from "./Text.tsx";
import { SAY } from "../sentences/parts.ts";

interface Props {
  specimen: Pick<SpecimenFacts, "sha256" | "rightToLeft" | "sample"> & { signsOnly?: boolean };
  words: string;
  size: number;
  /** Whether the font has every character of the words. */
  covered?: boolean;
  lines?: number;
}

export function Specimen({ specimen, words, size, covered = true, lines = 2 }: Props) {
  const [place, seen] = useInView();
  const state = useFontFace(specimen.sha256, seen);
  const own = specimen.sample !== "" && (!covered || specimen.signsOnly === true);
  const [scriptWords] = useScriptWords();
  const script = own ? scriptOf(specimen.sample) : undefined;
  const said = script && scriptWords[script];
  const shown = own ? said || specimen.sample : words || SAY.typeYourOwnWordsAbove;
  return (
    <View ref={place} style={{ minHeight: size * 1.3 }} className="justify-center overflow-hidden">
      {state === "refused" ? (
        <Small>{SAY.thisBrowserWillNotDraw}</Small>
      ) : (
        <Text
          testID="specimen"
          numberOfLines={lines}
          style={{
            fontFamily: familyOf(specimen.sha256),
            fontSize: size,
            lineHeight: Math.round(size * 1.3),
            opacity: state === "ready" ? 1 : 0,
            writingDirection: specimen.rightToLeft ? "rtl" : "auto",
          }}
          className="text-ink"
        >
          {shown}
        </Text>
      )}
      {own ? (
        <Small className="text-xs">{said && script ? SAY.shownInYourWordsIn(SCRIPT_NAMES[script]) : SAY.shownInCharactersOfIts}</Small>
      ) : null}
      {!covered && !own ? <Small className="text-xs">{SAY.someOfYourCharactersAre}</Small> : null}
    </View>
  );
}
