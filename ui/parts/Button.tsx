// Buttons: one strong kind for a screen's next action, one quiet kind for everything else. Never under 44 px.
import type { LucideIcon } from "./icons.ts";
import { ActivityIndicator, Pressable, Text } from "react-native";
import { usePalette } from "../theme/theme.ts";
import type { KeyName } from "../web/keys.ts";

interface Props {
  label: string;
  onPress: () => void;
  strong?: boolean;
  busy?: boolean;
  disabled?: boolean;
  icon?: LucideIcon;
  /** Said by screen readers when the label alone is not enough. */
  hint?: string;
  testID?: string;
  className?: string;
  pressed?: boolean;
  /** The key that does the same; a strong button is what comes next. */
  byKey?: KeyName;
}

/** A word longer than the button breaks. */
const LONG_WORDS = { overflowWrap: "anywhere" } as object;

export function Button({ label, onPress, strong, busy, disabled, icon: Icon, hint, testID, className = "", pressed, byKey }: Props) {
  const palette = usePalette();
  const off = disabled || busy;
  const colour = strong ? palette.onPersimmon : palette.ink;
  const ground = strong ? "bg-persimmon border-persimmon" : pressed ? "bg-tab border-ink" : "bg-drawer border-edge";
  const key = byKey ?? (strong ? "next" : undefined);
  return (
    <Pressable
      {...(key ? { dataSet: { key } } : {})}
      testID={testID}
      role="button"
      aria-label={hint ? `${label}, ${hint}` : label}
      aria-disabled={off}
      aria-busy={busy}
      aria-pressed={pressed}
      disabled={off}
      onPress={onPress}
      className={`min-h-[48px] max-w-full flex-row items-center justify-center gap-2 border px-4 py-2 active:opacity-70 ${ground} ${off ? "opacity-60" : ""} ${className}`}
    >
      {busy ? <ActivityIndicator size="small" color={colour} aria-hidden /> : Icon ? <Icon size={18} color={colour} /> : null}
      <Text className={`min-w-0 shrink text-center font-strong text-base ${strong ? "text-onPersimmon" : "text-ink"}`} style={LONG_WORDS}>
        {label}
      </Text>
    </Pressable>
  );
}
