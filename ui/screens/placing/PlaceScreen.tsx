// Choosing where a family goes: device and account. What it would do is shown on the plan that follows.
import { useState } from "react";
import { View } from "react-native";
import { type PlanRequest, type ProfilesBy } from "../../../contract/placing.ts";
import { SORT_WORDS } from "../../data/devices.ts";
import { useDevices, useFamily } from "../../data/hooks.ts";
import { Button } from "../../parts/Button.tsx";
import { Drawer } from "../../parts/Drawer.tsx";
import { ForWhom } from "../../parts/ForWhom.tsx";
import { Luggage, Tablet } from "../../parts/icons.ts";
import { ActRow, LinkRow } from "../../parts/LinkRow.tsx";
import { RadioRow } from "../../parts/RadioRow.tsx";
import { Screen } from "../../parts/Screen.tsx";
import { ApiProblemNote, Loaded } from "../../parts/Status.tsx";
import { saveFrom } from "../../web/download.ts";
import { usePlanning } from "./planning.ts";
import { SAY } from "../../sentences/placing/place.ts";

export function PlaceScreen({ familyId }: { familyId: number }) {
  const devices = useDevices();
  const family = useFamily(familyId, "");
  const [chosen, setChosen] = useState<number>();
  const [wished, setAccount] = useState<"me" | "everyone">("me");
  const [wishedProfiles, setProfiles] = useState<ProfilesBy>();
  const device = devices.data?.find((one) => one.id === chosen) ?? devices.data?.[0];
  const deviceId = device?.id;
  const profiles = wishedProfiles ?? (device?.sort === "paired" ? "together" : "family");
  const account = device?.slots.includes("everyone") ? wished : "me";
  const there = family.data?.placements.filter((placement) => placement.deviceId === deviceId) ?? [];
  const on = there.some((placement) => placement.on);
  const plan = usePlanning();
  const draw = (action: PlanRequest["action"]) => {
    if (deviceId !== undefined) plan.run({ deviceId, action, account, familyIds: [familyId], profiles });
  };
  return (
    <Screen
      title={SAY.place(family.data?.name)}
      note={SAY.nothingChangesYetTheNext}
      back={`/family/${familyId}`}
      testID="place-screen"
      action={
        <>
          <Button
            strong
            label={SAY.showThePlan}
            busy={plan.busy}
            disabled={deviceId === undefined}
            onPress={() => draw("place")}
            testID="draw-plan"
          />
          {there.length > 0 ? (
            <View className="flex-row gap-2">
              {device?.switches ? (
                <Button
                  label={on ? SAY.planTurningItOff : SAY.planTurningItOn}
                  disabled={plan.busy}
                  onPress={() => draw(on ? "switch-off" : "switch-on")}
                  className="flex-1"
                  testID="draw-switch"
                />
              ) : null}
              <Button
                label={SAY.planTakingItOff}
                disabled={plan.busy}
                onPress={() => draw("remove")}
                className="flex-1"
                testID="draw-removal"
              />
            </View>
          ) : null}
        </>
      }
    >
      {plan.problem ? <ApiProblemNote problem={plan.problem} /> : null}
      <Loaded answer={devices} what={SAY.lookingAtTheDevices}>
        {(list) => (
          <View role="radiogroup" aria-label={SAY.device}>
            <Drawer label={SAY.onWhichDevice}>
              {list.map((device, i) => (
                <RadioRow
                  key={device.id}
                  first={i === 0}
                  label={device.name}
                  note={device.programs.map((program) => program.name).join(", ") || SORT_WORDS[device.sort]}
                  chosen={device.id === deviceId}
                  onPress={() => setChosen(device.id)}
                  testID={`device-${device.name}`}
                />
              ))}
            </Drawer>
          </View>
        )}
      </Loaded>
      {device?.slots.includes("everyone") ? (
        <ForWhom account={account} onChange={setAccount} everyone={SAY.everyAccountsProgramsFindIt} />
      ) : null}
      {device?.slots.includes("profile") ? (
        <View role="radiogroup" aria-label={SAY.profiles}>
          <Drawer label={SAY.inWhichProfiles}>
            <RadioRow
              first
              label={SAY.oneForTheWholeFamily}
              note={SAY.theTabletAsksForIts}
              chosen={profiles === "family"}
              onPress={() => setProfiles("family")}
            />
            <RadioRow
              first={false}
              label={SAY.oneForEachStyle}
              note={SAY.eachCanBeRemovedBy}
              chosen={profiles === "style"}
              onPress={() => setProfiles("style")}
              testID="profile-each"
            />
            <RadioRow
              first={false}
              label={SAY.oneForEverything}
              note={SAY.togetherWithWhatElseCame}
              chosen={profiles === "together"}
              onPress={() => setProfiles("together")}
              testID="profile-together"
            />
          </Drawer>
        </View>
      ) : null}
      <Drawer label={SAY.onADeviceThatIs}>
        <LinkRow
          first
          href={`/tablet?family=${familyId}`}
          icon={Tablet}
          label={SAY.aTabletByAProfile}
          note={SAY.aFileThatTheTablet}
          testID="to-tablet"
        />
        <ActRow
          icon={Luggage}
          label={SAY.aMachineWithoutAConnection}
          note={SAY.oneZipFontsPapersProfiles}
          onPress={() => saveFrom(`/api/kit?families=${familyId}`)}
          testID="save-kit"
        />
      </Drawer>
    </Screen>
  );
}
