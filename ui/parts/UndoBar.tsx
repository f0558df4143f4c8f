// Says what was just done and offers to take it back. It stays until it is used or dismissed.
import { useCallback } from "react";
import { Pressable, Text, View } from "react-native";
import { dismissUndo, offerUndo, useUndoable } from "../data/undo.ts";
import { useAction } from "../data/useAction.ts";
import { usePalette } from "../theme/theme.ts";
import { Undo2, X } from "./icons.ts";
import { SAY } from "../sentences/parts.ts";

export function UndoBar() {
  const last = useUndoable();
  const palette = usePalette();
  const back = useAction(
    useCallback(async () => {
      await last?.undo?.();
      // Where it was done, it is said that it was taken back.
      if (last) offerUndo(SAY.undoneSentence(last.sentence), null);
    }, [last]),
  );
  return (
    <View role="status" aria-live="polite">
      {last ? (
        <View testID="undo-bar" className="flex-row flex-wrap items-center gap-1 border-t border-edge bg-ink pl-4">
          <Text className="min-w-[180px] flex-1 py-2 font-text text-sm text-paper">
            {back.problem ? back.problem.message : last.sentence}
          </Text>
          {last.next ? (
            <Pressable
              role="button"
              testID="undo-next"
              onPress={() => {
                last.next?.go();
                dismissUndo();
              }}
              className="min-h-[48px] justify-center px-3 active:opacity-60"
            >
              <Text className="font-strong text-base text-paper underline">{last.next.label}</Text>
            </Pressable>
          ) : null}
          {last.undo ? (
            <Pressable
              role="button"
              testID="undo"
              dataSet={{ key: "undo" }}
              disabled={back.busy}
              onPress={back.run}
              className="min-h-[48px] flex-row items-center gap-2 px-3 active:opacity-60"
            >
              <Undo2 size={18} color={palette.paper} aria-hidden />
              <Text className="font-strong text-base text-paper">{SAY.undo}</Text>
            </Pressable>
          ) : null}
          <Pressable
            role="button"
            aria-label={SAY.dismiss}
            testID="undo-dismiss"
            onPress={dismissUndo}
            className="h-12 w-12 items-center justify-center active:opacity-60"
          >
            <X size={18} color={palette.paper} aria-hidden />
          </Pressable>
        </View>
      ) : null}
    </View>
  );
}
