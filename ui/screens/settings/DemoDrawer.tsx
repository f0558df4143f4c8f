// The demo's world, put back as it was.
import { useCallback, useEffect, useState } from "react";
import { View } from "react-native";
import { Done, send } from "../../data/api.ts";
import { useAction } from "../../data/useAction.ts";
import { Button } from "../../parts/Button.tsx";
import { Drawer, DrawerRow } from "../../parts/Drawer.tsx";
import { ApiProblemNote } from "../../parts/Status.tsx";
import { Body, Strong } from "../../parts/Text.tsx";
import { SAY } from "../../sentences/settings/settings.ts";

/** So often it is asked whether the demo is back. */
const ASK_MS = 1500;

/** Puts the demo's world back as it was; what was done in it since is lost, and is said to be. */
export function DemoDrawer() {
  const [sure, setSure] = useState(false);
  const [going, setGoing] = useState(false);
  const put = useAction(
    useCallback(async () => {
      await send("POST", "/demo/put-back", Done);
      setGoing(true);
    }, []),
  );
  useEffect(() => {
    if (!going) return;
    let gone = false;
    const timer = setInterval(() => {
      fetch("/api/today").then(
        ({ ok }) => gone && ok && location.assign("/"),
        () => (gone = true),
      );
    }, ASK_MS);
    return () => clearInterval(timer);
  }, [going]);
  return (
    <Drawer label={SAY.theDemo} testID="demo">
      <DrawerRow first className="items-start gap-2">
        {put.problem ? <ApiProblemNote problem={put.problem} /> : null}
        <Body>{SAY.thisLibraryHoldsTheDemos}</Body>
        {going ? (
          <View role="status">
            <Strong>{SAY.theDemoIsBeingPut}</Strong>
          </View>
        ) : sure ? (
          <>
            <Body>{SAY.whatYouDidInIt}</Body>
            <View className="flex-row flex-wrap gap-2">
              <Button strong label={SAY.putItBack} busy={put.busy} onPress={put.run} testID="put-back-sure" />
              <Button label={SAY.leaveItAsItIs} onPress={() => setSure(false)} />
            </View>
          </>
        ) : (
          <Button label={SAY.putTheDemoBack} onPress={() => setSure(true)} testID="put-back" />
        )}
      </DrawerRow>
    </Drawer>
  );
}
