// While somebody chooses: how many, all of them, what can be done with them, and the end of it.
import type { ReactNode } from "react";
import { Pressable, View } from "react-native";
import { usePalette } from "../theme/theme.ts";
import { Button } from "./Button.tsx";
import { Check, X } from "./icons.ts";
import { Strong } from "./Text.tsx";
import { SAY } from "../sentences/parts.ts";

interface Props {
  words: string;
  /** Takes all that fit; left out where all are chosen. */
  all?: { label: string; onPress: () => void } | undefined;
  onEnd: () => void;
  children: ReactNode;
}

export function ChooseBar({ words, all, onEnd, children }: Props) {
  const palette = usePalette();
  return (
    <View className="border-t-2 border-t-ink bg-drawer px-3 pb-3 pt-1" role="group" aria-label={SAY.whatIsChosen} testID="choose-bar">
      <View className="mx-auto w-full max-w-3xl">
        <View className="flex-row items-center gap-2">
          <View role="status" aria-live="polite" className="min-w-0 flex-1">
            <Strong testID="chosen-count">{words}</Strong>
          </View>
          {all ? <Button label={all.label} onPress={all.onPress} testID="choose-all-fitting" /> : null}
          <Pressable
            role="button"
            aria-label={SAY.stopChoosing}
            testID="stop-choosing"
            onPress={onEnd}
            className="h-12 w-12 items-center justify-center active:opacity-60"
          >
            <X size={20} color={palette.ink} aria-hidden />
          </Pressable>
        </View>
        <View className="flex-row flex-wrap gap-2 pt-1">{children}</View>
      </View>
    </View>
  );
}

/** A box to tick, and that of an entry that can be chosen. */
export function ChooseBox({ on }: { on: boolean }) {
  const palette = usePalette();
  return (
    <View aria-hidden className={`h-6 w-6 items-center justify-center border-2 ${on ? "border-ink bg-ink" : "border-faded bg-drawer"}`}>
      {on ? <Check size={16} strokeWidth={3} color={palette.paper} aria-hidden /> : null}
    </View>
  );
}
