// A sheet over the screen: what is to be chosen or said before something is done. Escape, the cross and a tap beside it close it, and focus
// goes back to what opened it.
import { useEffect, useRef, type ReactNode } from "react";
import { Modal, Pressable, ScrollView, View } from "react-native";
import { usePalette } from "../theme/theme.ts";
import { X } from "./icons.ts";
import { Small, Title } from "./Text.tsx";
import { useWide } from "./useWide.ts";
import { SAY } from "../sentences/parts.ts";

interface Props {
  title: string;
  note?: string;
  onClose: () => void;
  children: ReactNode;
  /** Stays in view at the bottom. */
  action?: ReactNode;
  testID?: string;
}

export function Sheet({ title, note, onClose, children, action, testID }: Props) {
  const palette = usePalette();
  const wide = useWide();
  const sheet = useRef<View>(null);
  // Focus moves into what opens, and back to what opened it.
  useEffect(() => {
    const before = typeof document === "undefined" ? null : (document.activeElement as HTMLElement | null);
    (sheet.current as unknown as HTMLElement | null)?.focus?.();
    return () => before?.focus?.();
  }, []);
  return (
    <Modal transparent visible onRequestClose={onClose} aria-label={title}>
      <View className={`flex-1 ${wide ? "items-center justify-center p-6" : "justify-end"}`}>
        {/* Beside the sheet; the cross does the same for whoever cannot see it. */}
        <Pressable
          aria-hidden
          tabIndex={-1}
          onPress={onClose}
          style={{ position: "absolute", top: 0, bottom: 0, left: 0, right: 0, backgroundColor: "rgba(0, 0, 0, 0.45)" }}
        />
        <View
          ref={sheet}
          tabIndex={-1}
          testID={testID}
          className={`max-h-[88%] w-full border border-edge bg-paper ${wide ? "max-w-[560px]" : "border-b-0"}`}
        >
          <View className="flex-row items-start justify-between gap-3 border-b border-edge py-2 pl-4">
            <View className="min-w-0 flex-1 justify-center py-2">
              <Title level={2}>{title}</Title>
              {note ? <Small>{note}</Small> : null}
            </View>
            <Pressable
              role="button"
              aria-label={SAY.close}
              testID="close-sheet"
              onPress={onClose}
              className="h-12 w-12 items-center justify-center active:opacity-60"
            >
              <X size={20} color={palette.ink} aria-hidden />
            </Pressable>
          </View>
          <ScrollView className="shrink" contentContainerClassName="px-4 py-4">
            {children}
          </ScrollView>
          {action ? <View className="gap-2 border-t border-edge bg-drawer px-4 py-3">{action}</View> : null}
        </View>
      </View>
    </Modal>
  );
}
