// Which styles draw a character, and which members of a family would show an empty box.
import { Link, useLocalSearchParams } from "expo-router";
import { useState } from "react";
import { TextInput, View } from "react-native";
import { codePointText } from "../../../core/names/signs.ts";
import { count } from "../../../core/words/words.ts";
import { useDraws, useStyleHead } from "../../data/hooks.ts";
import { useSettled } from "../../data/settled.ts";
import { Drawer, DrawerRow } from "../../parts/Drawer.tsx";
import { Screen } from "../../parts/Screen.tsx";
import { Loaded } from "../../parts/Status.tsx";
import { Body, Small, Strong } from "../../parts/Text.tsx";
import { useNumberParam } from "../../parts/params.ts";
import { usePalette } from "../../theme/theme.ts";

export function DrawsScreen() {
  const palette = usePalette();
  const given = useLocalSearchParams()["text"];
  const styleId = useNumberParam("style");
  const head = useStyleHead(styleId ?? 0);
  const [text, setText] = useState(typeof given === "string" ? given : "");
  const familyId = styleId === undefined ? undefined : head.data?.familyId;
  const answer = useDraws(useSettled(text, 150), familyId);
  return (
    <Screen title="Who draws it?" note="Paste or type a character." back="/bench" testID="draws">
      <TextInput
        aria-label="Characters to ask about"
        testID="draws-text"
        value={text}
        maxLength={40}
        onChangeText={setText}
        placeholder="Paste a character"
        placeholderTextColor={palette.faded}
        className="mb-4 min-h-[56px] border border-edge bg-drawer px-3 font-text text-2xl text-ink"
      />
      {text.trim() === "" ? null : (
        <Loaded answer={answer} what="Asking every style">
          {({ characters }) =>
            characters.length === 0 ? (
              <Body>There is nothing in it that is drawn.</Body>
            ) : (
              characters.map(({ character, codePoint, title, total, styles, members }) => (
                <Drawer
                  key={codePoint}
                  label={`${character}  ${codePointText(codePoint)}`}
                  note={count(total, "style")}
                  testID="draws-character"
                >
                  <DrawerRow first>
                    <Strong>{title || "A character without a name: for private use, or not assigned"}</Strong>
                    {total === 0 ? (
                      <Body>No style of your library draws it. Programs show an empty box, or borrow it from another font.</Body>
                    ) : null}
                  </DrawerRow>
                  {members.length > 0 ? (
                    <DrawerRow>
                      <Small className="text-ink">In {head.data?.family}</Small>
                      {members.map((one) => (
                        <Body key={one.styleId}>
                          {one.style}: {one.draws ? "draws it" : "would show an empty box"}
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
                      <Small>And {total - styles.length} more.</Small>
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
