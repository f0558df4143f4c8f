// A box to tick, with its words; never under 44 px.
import { Pressable, View } from "react-native";
import { ChooseBox } from "./ChooseBar.tsx";
import { Body, Small, Strong } from "./Text.tsx";

interface Props {
  label: string;
  note?: string;
  on: boolean;
  onChange: (on: boolean) => void;
  first?: boolean;
  testID?: string;
}

export function Tick({ label, note, on, onChange, first = false, testID }: Props) {
  return (
    <Pressable
      role="checkbox"
      aria-checked={on}
      testID={testID}
      onPress={() => onChange(!on)}
      className={`min-h-[48px] flex-row items-center gap-3 px-3 py-1 active:opacity-60 ${first ? "" : "border-t border-edge"}`}
    >
      <ChooseBox on={on} />
      <View className="min-w-0 flex-1">
        {note ? <Strong lines={1}>{label}</Strong> : <Body lines={1}>{label}</Body>}
        {note ? <Small>{note}</Small> : null}
      </View>
    </Pressable>
  );
}
