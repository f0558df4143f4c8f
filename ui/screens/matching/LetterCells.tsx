// The letters of a framed line, each with its guess, which can be put right one by one.
import { View } from "react-native";
import type { MatchReading } from "../../../contract/matching.ts";
import { Small } from "../../parts/Text.tsx";
import { usePalette } from "../../theme/theme.ts";
import { SAY } from "../../sentences/matching/match.ts";

const HIGH = 44;
/** Letters that are less sure than this are marked. */
const SURE = 0.6;

interface Props {
  reading: MatchReading;
  onLetter: (at: number, letter: string) => void;
}

export function LetterCells({ reading, onLetter }: Props) {
  const palette = usePalette();
  const { letters, picture, width, height } = reading;
  if (reading.joined) return <Small className="mb-2">{SAY.theseLettersHangTogetherSo}</Small>;
  return (
    <View className="mb-3 flex-row flex-wrap gap-1" role="group" aria-label={SAY.lettersAsTheyWereRead} testID="letters">
      {letters.map(({ letter, sure, box }, i) => {
        const scale = box ? HIGH / Math.max(1, Math.max(box.height * height, 0.5 * height)) : 1;
        const unsure = sure < SURE;
        const wide = box ? Math.max(24, Math.min(90, box.width * width * scale + 8)) : 24;
        return (
          <View key={i} className="items-center border border-edge bg-paper" style={{ width: Math.max(46, wide) }}>
            <div
              aria-hidden
              style={{
                width: wide,
                height: HIGH + 8,
                background: "#ffffff",
                ...(box
                  ? {
                      backgroundImage: `url(${picture})`,
                      backgroundRepeat: "no-repeat",
                      backgroundSize: `${width * scale}px ${height * scale}px`,
                      backgroundPosition: `${4 - box.x * width * scale}px ${4 - (box.y + box.height / 2) * height * scale + HIGH / 2}px`,
                    }
                  : {}),
              }}
            />
            <input
              aria-label={letter === "" ? SAY.letterNotRecognised(i) : SAY.letterLetter(i, letter, unsure)}
              data-testid="letter"
              value={letter}
              maxLength={4}
              onFocus={(event) => event.currentTarget.select()}
              onChange={(event) => {
                const typed = [...event.currentTarget.value.replace(/\s/gu, "")].at(-1);
                if (typed !== undefined) onLetter(i, typed);
              }}
              style={{
                width: "100%",
                minWidth: 44,
                height: 44,
                boxSizing: "border-box",
                textAlign: "center",
                border: 0,
                borderTop: `2px solid ${unsure ? palette.warning : palette.edge}`,
                font: "18px BuvanoText, sans-serif",
                color: palette.ink,
                background: palette.drawer,
              }}
            />
            {unsure ? <Small>?</Small> : null}
          </View>
        );
      })}
    </View>
  );
}
