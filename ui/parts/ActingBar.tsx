// How far something is that is done with very many at once; there is nothing to see while nothing is going on.
import { View } from "react-native";
import { useActing } from "../data/progress.ts";
import { ProgressBar } from "./Status.tsx";
import { Small } from "./Text.tsx";
import { SAY } from "../sentences/parts.ts";

export function ActingBar() {
  const acting = useActing();
  if (!acting) return null;
  const label = SAY.doneOfTotalDone(acting.done, acting.total);
  return (
    <View className="gap-1 border-t border-edge bg-drawer px-4 py-2" testID="acting">
      <Small className="text-ink">{label}</Small>
      <ProgressBar part={acting.done / acting.total} label={label} />
    </View>
  );
}
