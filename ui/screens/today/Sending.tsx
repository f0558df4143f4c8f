// What is on its way to the server: each upload with its progress, or why it did not arrive.
import { Pressable, View } from "react-native";
import { sizeWords } from "../../../core/words/words.ts";
import { callOff, sendAgain, type Outgoing } from "../../data/uploads.ts";
import { Button } from "../../parts/Button.tsx";
import { X } from "../../parts/icons.ts";
import { ProblemNote, ProgressBar } from "../../parts/Status.tsx";
import { Small, Strong } from "../../parts/Text.tsx";
import { usePalette } from "../../theme/theme.ts";
import { SAY } from "../../sentences/today/today.ts";

export function Sending({ one }: { one: Outgoing }) {
  const palette = usePalette();
  if (one.problem) {
    return (
      <ProblemNote message={`${one.name}: ${one.problem.message}`} next={one.problem.next}>
        <View className="mt-2 flex-row gap-2">
          <Button label={SAY.sendAgain} onPress={() => void sendAgain(one.id)} testID="send-again" />
          <Button label={SAY.dismiss} onPress={() => callOff(one.id)} />
        </View>
      </ProblemNote>
    );
  }
  const words =
    one.state === "waiting" ? SAY.waiting : one.sent < one.total ? `${sizeWords(one.sent)} of ${sizeWords(one.total)}` : SAY.arriving;
  return (
    <View className="mb-2 flex-row items-center gap-3 border border-edge bg-drawer pl-3" testID="sending">
      <View className="min-w-0 flex-1 py-2">
        <View className="mb-2 flex-row justify-between gap-3">
          <Strong lines={1} className="min-w-0 flex-1">
            {one.name}
          </Strong>
          <Small>{words}</Small>
        </View>
        <ProgressBar part={one.total > 0 ? one.sent / one.total : undefined} label={SAY.sendingName(one.name)} />
      </View>
      <Pressable
        role="button"
        aria-label={SAY.cancelName(one.name)}
        onPress={() => callOff(one.id)}
        className="h-14 w-12 items-center justify-center active:opacity-60"
      >
        <X size={18} color={palette.ink} aria-hidden />
      </Pressable>
    </View>
  );
}
