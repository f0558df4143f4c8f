// Which styles draw a character, and which members of a family would show an empty box.
import { Link, useLocalSearchParams } from "expo-router";
import { useState } from "react";
import { View } from "react-native";
import { asked } from "../../../core/symbols/search.ts";
import { codePointText } from "../../../core/symbols/symbols.ts";
import { count } from "../../../core/words/words.ts";
import { useDraws, useSigns, useStyleHead } from "../../data/hooks.ts";
import { useSettled } from "../../data/settled.ts";
import { Drawer, DrawerRow } from "../../parts/Drawer.tsx";
import { Screen } from "../../parts/Screen.tsx";
import { SearchField } from "../../parts/SearchField.tsx";
import { Loaded } from "../../parts/Status.tsx";
import { Body, Small, Strong } from "../../parts/Text.tsx";
import { useNumberParam } from "../../parts/params.ts";
import { SAY } from "../../sentences/bench/bench.ts";

export function DrawsScreen() {
  const given = useLocalSearchParams()["text"];
  const styleId = useNumberParam("style");
  const head = useStyleHead(styleId ?? 0);
  const [text, setText] = useState(typeof given === "string" ? given : "");
  const familyId = styleId === undefined ? undefined : head.data?.familyId;
  const settled = useSettled(text, 150);
  const what = asked(settled);
  const words = what.kind === "words" ? settled.trim() : null;
  const signs = useSigns(words);
  const answer = useDraws(words === null ? settled : "", familyId);
  return (
    <Screen title={SAY.whichStylesDrawIt} note={SAY.pasteACharacterOrNameA} back="/bench" testID="draws">
      <SearchField
        label={SAY.aCharacterToAskAbout}
        value={text}
        onChange={setText}
        placeholder={SAY.pasteACharacterOrNameASign}
        most={40}
        large
        testID="draws-text"
      />
      {words !== null ? (
        <Loaded answer={signs} what={SAY.lookingThroughEveryStyle}>
          {({ signs: found }) =>
            found.length === 0 ? (
              <Body>{SAY.noStyleOfYourLibrary(words)}</Body>
            ) : (
              <Drawer label={SAY.signsCalledWords(words)} testID="signs-found">
                {found.map(({ codePoint, title, total, style }, i) => (
                  <Link
                    key={`${codePoint}-${style.styleId}`}
                    href={`/bench/glyphs/${style.styleId}?find=${encodeURIComponent(codePointText(codePoint))}`}
                    className={`w-full ${i === 0 ? "" : "border-t border-edge"}`}
                    testID="sign-found"
                  >
                    <View className="min-h-[56px] w-full justify-center px-3">
                      <Body lines={1}>{title}</Body>
                      <Small lines={1}>{SAY.aSignInAStyle(codePointText(codePoint), style.family, style.style, total)}</Small>
                    </View>
                  </Link>
                ))}
              </Drawer>
            )
          }
        </Loaded>
      ) : null}
      {text.trim() === "" || words !== null ? null : (
        <Loaded answer={answer} what={SAY.askingEveryStyle}>
          {({ characters }) =>
            characters.length === 0 ? (
              <Body>{SAY.nothingInItIsDrawn}</Body>
            ) : (
              characters.map(({ character, codePoint, title, total, styles, members }) => (
                <Drawer
                  key={codePoint}
                  label={`${character}  ${codePointText(codePoint)}`}
                  note={count(total, "style")}
                  testID="draws-character"
                >
                  <DrawerRow first>
                    <Strong>{title || SAY.aCharacterWithoutAName}</Strong>
                    {total === 0 ? <Body>{SAY.noStyleOfYourLibraryDraws}</Body> : null}
                  </DrawerRow>
                  {members.length > 0 ? (
                    <DrawerRow>
                      <Small className="text-ink">{SAY.inFamily(head.data?.family)}</Small>
                      {members.map((one) => (
                        <Body key={one.styleId}>
                          {one.style}: {one.draws ? SAY.drawsIt : SAY.wouldShowAnEmptyBox}
                        </Body>
                      ))}
                    </DrawerRow>
                  ) : null}
                  {styles.map((one) => (
                    <Link
                      key={one.styleId}
                      href={`/bench/glyphs/${one.styleId}`}
                      className="w-full border-t border-edge"
                      testID="draws-style"
                    >
                      <View className="min-h-[48px] w-full justify-center px-3">
                        <Body lines={1}>
                          {one.family} {one.style}
                        </Body>
                      </View>
                    </Link>
                  ))}
                  {total > styles.length ? (
                    <DrawerRow>
                      <Small>{SAY.andMore2(total, styles.length)}</Small>
                    </DrawerRow>
                  ) : null}
                </Drawer>
              ))
            )
          }
        </Loaded>
      )}
    </Screen>
  );
}
