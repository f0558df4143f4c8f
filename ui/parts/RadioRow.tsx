// One of several answers in a drawer, with its note; never under 44 px.
import { Pressable, View } from "react-native";
import { Small, Strong } from "./Text.tsx";

interface Props {
  label: string;
  note?: string;
  chosen: boolean;
  first: boolean;
  onPress: () => void;
  testID?: string;
}

export function RadioRow({ label, note, chosen, first, onPress, testID }: Props) {
  return (
    <Pressable
      role="radio"
      aria-checked={chosen}
      testID={testID}
      onPress={onPress}
      className={`min-h-[52px] w-full flex-row items-center gap-3 px-3 py-2 active:opacity-60 ${first ? "" : "border-t border-edge"}`}
    >
      <View className={`h-5 w-5 items-center justify-center rounded-full border-2 ${chosen ? "border-ink" : "border-faded"}`}>
        {chosen ? <View className="h-2.5 w-2.5 rounded-full bg-ink" /> : null}
      </View>
      <View className="min-w-0 flex-1">
        <Strong>{label}</Strong>
        {note ? <Small>{note}</Small> : null}
      </View>
    </Pressable>
  );
}
