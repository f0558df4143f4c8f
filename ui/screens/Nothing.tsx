// An empty place beside a list, or an address that leads nowhere.
import { View } from "react-native";
import { Small } from "../parts/Text.tsx";

export function Nothing({ words }: { words: string }) {
  return (
    <View className="flex-1 items-center justify-center bg-paper p-8">
      <Small className="max-w-sm text-center">{words}</Small>
    </View>
  );
}
