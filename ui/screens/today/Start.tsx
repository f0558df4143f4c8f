// The first three steps of a new library, each with what it takes to do it; gone once they are done or skipped.
import { useRouter } from "expo-router";
import { View } from "react-native";
import type { Today } from "../../../contract/today.ts";
import { useDevices } from "../../data/hooks.ts";
import { startSkipped } from "../../data/start.ts";
import { Button } from "../../parts/Button.tsx";
import { Drawer, DrawerRow } from "../../parts/Drawer.tsx";
import { Check } from "../../parts/icons.ts";
import { Small, Strong } from "../../parts/Text.tsx";
import { usePalette } from "../../theme/theme.ts";
import { SAY } from "../../sentences/today/today.ts";

interface StepProps {
  place: number;
  title: string;
  note: string;
  done: boolean;
  /** The step whose turn it is. */
  now: boolean;
  button?: { label: string; onPress: () => void; testID: string };
}

function Step({ place, title, note, done, now, button }: StepProps) {
  const palette = usePalette();
  return (
    <DrawerRow first={place === 1} testID={`start-${place}`}>
      <View className="flex-row items-center gap-3">
        <View className={`h-7 w-7 items-center justify-center border ${done ? "border-verdigris" : "border-edge"}`}>
          {done ? <Check size={16} color={palette.verdigris} aria-label={SAY.done} /> : <Small className="text-ink">{place}</Small>}
        </View>
        <View className="min-w-0 flex-1">
          <Strong>{title}</Strong>
          <Small>{note}</Small>
        </View>
      </View>
      {button && now ? (
        <View className="mt-2 items-start pl-10">
          <Button strong label={button.label} onPress={button.onPress} testID={button.testID} />
        </View>
      ) : null}
    </DrawerRow>
  );
}

export function Start({ today }: { today: Pick<Today, "parcels" | "families" | "placed"> }) {
  const skipped = startSkipped.use();
  const devices = useDevices().data;
  const router = useRouter();
  if (skipped || devices === undefined) return null;
  const done = [today.parcels + today.families > 0, devices.length > 0, today.placed > 0];
  if (done.every(Boolean)) return null;
  const now = done.indexOf(false) + 1;
  return (
    <Drawer label={SAY.threeStepsToBeginWith} testID="start">
      <Step place={1} title={SAY.bringInADownload} note={SAY.byTheButtonAboveBuvano} done={done[0]!} now={now === 1} />
      <Step
        place={2}
        title={SAY.sayWhereYouWork}
        note={SAY.thisComputerOrATablet}
        done={done[1]!}
        now={now === 2}
        button={{ label: SAY.sayWhere, onPress: () => router.push("/where"), testID: "start-where" }}
      />
      <Step
        place={3}
        title={SAY.placeAFamilyThere}
        note={SAY.thenBuvanoSaysWhereEach}
        done={done[2]!}
        now={now === 3}
        button={{ label: SAY.openYourFamilies, onPress: () => router.push("/families"), testID: "start-place" }}
      />
      <DrawerRow className="items-start">
        <Button label={SAY.skipThis} onPress={() => startSkipped.set(true)} testID="start-skip" />
      </DrawerRow>
    </Drawer>
  );
}
