// Licences that end soon or have ended.
import { useRouter } from "expo-router";
import { View } from "react-native";
import type { Today } from "../../../contract/today.ts";
import { count } from "../../../core/words/words.ts";
import { Button } from "../../parts/Button.tsx";
import { Drawer, DrawerRow } from "../../parts/Drawer.tsx";
import { ApiProblemNote } from "../../parts/Status.tsx";
import { Small, Strong } from "../../parts/Text.tsx";
import { usePlanning } from "../placing/planning.ts";
import { SAY } from "../../sentences/today/today.ts";

/** The plan that switches their fonts off, and renewal. */
export function Terms({ terms }: { terms: Today["terms"] }) {
  const router = useRouter();
  const draw = usePlanning();
  if (terms.length === 0) return null;
  return (
    <Drawer label={SAY.clearedLicencesThatEnd} note={count(terms.length, "family", "families")} testID="terms">
      {draw.problem ? <ApiProblemNote problem={draw.problem} /> : null}
      {terms.map((term, i) => (
        <DrawerRow key={term.familyId} first={i === 0} testID="term">
          <Strong lines={1}>{term.name}</Strong>
          <Small className={term.over ? "text-warning" : ""}>{SAY.aTerm(term.over, term.words)}</Small>
          <View className="mt-2 flex-row flex-wrap gap-2">
            {term.over
              ? term.devices.map((device) => (
                  <Button
                    key={device.id}
                    label={SAY.turnOffOnName(device.name)}
                    busy={draw.busy}
                    onPress={() => draw.run({ deviceId: device.id, action: "switch-off", familyIds: [term.familyId] })}
                    testID="switch-off"
                  />
                ))
              : null}
            <Button label={SAY.renew} hint={term.name} onPress={() => router.push(`/licence?family=${term.familyId}`)} testID="renew" />
          </View>
        </DrawerRow>
      ))}
    </Drawer>
  );
}
