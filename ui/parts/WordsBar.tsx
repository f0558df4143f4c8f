// The one text field and the one size slider for every specimen.
import { useState } from "react";
import { Pressable, TextInput, View } from "react-native";
import { SIZES, useSize, useWords } from "../data/words.ts";
import { usePalette } from "../theme/theme.ts";
import { RangeInput } from "../web/RangeInput.tsx";
import { Languages } from "./icons.ts";
import { ScriptWords } from "./ScriptWords.tsx";
import { Small } from "./Text.tsx";
import { SAY } from "../sentences/parts.ts";

export function WordsBar() {
  const [words, setWords] = useWords();
  const [size, setSize] = useSize();
  const palette = usePalette();
  const [others, setOthers] = useState(false);
  return (
    <View className="mb-4 border border-edge bg-drawer p-3">
      <TextInput
        aria-label={SAY.yourOwnWords}
        testID="words"
        value={words}
        maxLength={200}
        onChangeText={setWords}
        placeholder={SAY.typeYourOwnWords}
        placeholderTextColor={palette.faded}
        className="min-h-[44px] border-b border-edge px-1 font-text text-lg text-ink"
      />
      <View className="flex-row items-center gap-3">
        <View className="flex-1">
          <RangeInput label={SAY.sizeOfTheWords} value={size} least={SIZES.least} most={SIZES.most} unit={SAY.pixels} onChange={setSize} />
        </View>
        <Small className="w-12 text-right">{SAY.sizePx(size)}</Small>
        <Pressable
          role="button"
          aria-label={SAY.wordsInOtherScripts}
          testID="other-scripts"
          onPress={() => setOthers(true)}
          className="h-11 w-11 items-center justify-center border border-edge active:opacity-60"
        >
          <Languages size={18} color={palette.ink} aria-hidden />
        </Pressable>
      </View>
      {others ? <ScriptWords onClose={() => setOthers(false)} /> : null}
    </View>
  );
}
