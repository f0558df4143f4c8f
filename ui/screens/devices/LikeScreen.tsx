// Making a device like another: the difference first, then a plan.
import { useState } from "react";
import { View } from "react-native";
import { useComparison, useDevices } from "../../data/hooks.ts";
import { Button } from "../../parts/Button.tsx";
import { Drawer, DrawerRow } from "../../parts/Drawer.tsx";
import { RadioRow } from "../../parts/RadioRow.tsx";
import { Screen } from "../../parts/Screen.tsx";
import { ApiProblemNote, Loaded } from "../../parts/Status.tsx";
import { Body, Small, Strong } from "../../parts/Text.tsx";
import { usePlanning } from "../placing/planning.ts";
import { SAY } from "../../sentences/matching/alike.ts";

export function LikeScreen({ deviceId }: { deviceId: number }) {
  const devices = useDevices();
  const [chosen, setChosen] = useState<number>();
  const device = devices.data?.find((one) => one.id === deviceId);
  const others = devices.data?.filter((one) => one.id !== deviceId) ?? [];
  const from = others.find((one) => one.id === chosen) ?? others.find((one) => one.placedFonts > 0) ?? others[0];
  const comparison = useComparison(deviceId, from?.id);
  const draw = usePlanning();
  const missing = comparison.data?.onlyThere ?? 0;
  return (
    <Screen
      title={device ? SAY.makeNameLikeAnother(device.name) : SAY.makeItLikeAnother}
      note={SAY.whatOnlyThisDeviceHas}
      back={`/device/${deviceId}`}
      testID="like"
      action={
        <Button
          strong
          label={missing === 0 ? SAY.nothingIsMissing : SAY.showThePlan}
          busy={draw.busy}
          disabled={!from || missing === 0}
          onPress={() => from && draw.run({ deviceId, action: "like", fromDeviceId: from.id })}
          testID="draw-like"
        />
      }
    >
      {draw.problem ? <ApiProblemNote problem={draw.problem} /> : null}
      <Loaded answer={devices} what={SAY.lookingAtTheDevices}>
        {() => (
          <View role="radiogroup" aria-label={SAY.whichDeviceToFollow}>
            <Drawer label={SAY.likeWhichOne}>
              {others.map((one, i) => (
                <RadioRow
                  key={one.id}
                  first={i === 0}
                  label={one.name}
                  note={one.placedFonts === 0 ? SAY.noFontsPlaced : SAY.placedFontsPlaced(one.placedFonts)}
                  chosen={one.id === from?.id}
                  onPress={() => setChosen(one.id)}
                  testID={`like-${one.name}`}
                />
              ))}
              {others.length === 0 ? (
                <DrawerRow first>
                  <Body>{SAY.thereIsNoOtherDevice}</Body>
                </DrawerRow>
              ) : null}
            </Drawer>
          </View>
        )}
      </Loaded>
      {from ? (
        <Loaded answer={comparison} what={SAY.comparingTheTwo}>
          {(value) => (
            <Drawer label={SAY.theDifference} note={SAY.bothOnBoth(value.both)} testID="comparison">
              <DrawerRow first>
                <Body>{SAY.onlyThereOnlyOnOtherNameOnlyHere(value.onlyThere, value.otherName, value.onlyHere, value.deviceName)}</Body>
              </DrawerRow>
              {value.rows.map((row) => (
                <DrawerRow key={row.family} className="flex-row items-baseline justify-between gap-3 py-2">
                  <Strong lines={1} className="min-w-0 flex-1">
                    {row.family}
                  </Strong>
                  <Small>{SAY.hereHereThereThere(row.here, row.there)}</Small>
                </DrawerRow>
              ))}
            </Drawer>
          )}
        </Loaded>
      ) : null}
    </Screen>
  );
}
