// A box to tick, with its words; never under 44 px.
import { Pressable, View } from "react-native";
import { usePalette } from "../theme/theme.ts";
import { Check } from "./icons.ts";
import { Body, Small } from "./Text.tsx";

interface Props {
  label: string;
  note?: string;
  on: boolean;
  onChange: (on: boolean) => void;
  first?: boolean;
  testID?: string;
}

export function Tick({ label, note, on, onChange, first = false, testID }: Props) {
  const palette = usePalette();
  return (
    <Pressable
      role="checkbox"
      aria-checked={on}
      testID={testID}
      onPress={() => onChange(!on)}
      className={`min-h-[48px] flex-row items-center gap-3 px-3 py-1 active:opacity-60 ${first ? "" : "border-t border-edge"}`}
    >
      <View className={`h-5 w-5 items-center justify-center border-2 ${on ? "border-ink bg-ink" : "border-faded"}`}>
        {on ? <Check size={14} strokeWidth={3} color={palette.paper} aria-hidden /> : null}
      </View>
      <View className="min-w-0 flex-1">
        <Body lines={1}>{label}</Body>
        {note ? <Small>{note}</Small> : null}
      </View>
    </Pressable>
  );
}
