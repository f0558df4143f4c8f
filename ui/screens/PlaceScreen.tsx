// Choosing where a family goes: device and account. What it would do is shown on the plan that follows.
import { useRouter } from "expo-router";
import { useCallback, useState } from "react";
import { View } from "react-native";
import { PlanView, type PlanRequest, type ProfilesBy } from "../../contract/plan.ts";
import { send } from "../data/api.ts";
import { SORT_WORDS } from "../data/devices.ts";
import { useDevices, useFamily } from "../data/hooks.ts";
import { useAction } from "../data/useAction.ts";
import { Button } from "../parts/Button.tsx";
import { Drawer } from "../parts/Drawer.tsx";
import { ForWhom } from "../parts/ForWhom.tsx";
import { Luggage, Tablet } from "../parts/icons.ts";
import { ActRow, LinkRow } from "../parts/LinkRow.tsx";
import { RadioRow } from "../parts/RadioRow.tsx";
import { Screen } from "../parts/Screen.tsx";
import { ApiProblemNote, Loaded } from "../parts/Status.tsx";
import { saveFrom } from "../web/download.ts";

export function PlaceScreen({ familyId }: { familyId: number }) {
  const devices = useDevices();
  const family = useFamily(familyId, "");
  const router = useRouter();
  const [chosen, setChosen] = useState<number>();
  const [wished, setAccount] = useState<"me" | "everyone">("me");
  const [profiles, setProfiles] = useState<ProfilesBy>("family");
  const device = devices.data?.find((one) => one.id === chosen) ?? devices.data?.[0];
  const deviceId = device?.id;
  const account = device?.slots.includes("everyone") ? wished : "me";
  const there = family.data?.placements.filter((placement) => placement.deviceId === deviceId) ?? [];
  const on = there.some((placement) => placement.on);
  const draw = useAction(
    useCallback(
      async (action: PlanRequest["action"]) => {
        if (deviceId === undefined) return;
        const request: PlanRequest = { deviceId, action, account, familyIds: [familyId], profiles };
        const plan = await send("POST", "/plans", PlanView, request);
        router.push(`/plan/${plan.id}`);
      },
      [deviceId, account, familyId, profiles, router],
    ),
  );
  return (
    <Screen
      title={`Place ${family.data?.name ?? ""}`}
      note="Nothing changes yet: the next screen shows every step first."
      back={`/family/${familyId}`}
      testID="place-screen"
      action={
        <>
          <Button
            strong
            label="Show the plan"
            busy={draw.busy}
            disabled={deviceId === undefined}
            onPress={() => draw.run("place")}
            testID="draw-plan"
          />
          {there.length > 0 ? (
            <View className="flex-row gap-2">
              {device?.switches ? (
                <Button
                  label={on ? "Plan turning it off" : "Plan turning it on"}
                  disabled={draw.busy}
                  onPress={() => draw.run(on ? "switch-off" : "switch-on")}
                  className="flex-1"
                  testID="draw-switch"
                />
              ) : null}
              <Button
                label="Plan taking it off"
                disabled={draw.busy}
                onPress={() => draw.run("remove")}
                className="flex-1"
                testID="draw-removal"
              />
            </View>
          ) : null}
        </>
      }
    >
      {draw.problem ? <ApiProblemNote problem={draw.problem} /> : null}
      <Loaded answer={devices} what="Looking at the devices">
        {(list) => (
          <View role="radiogroup" aria-label="Device">
            <Drawer label="On which device">
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
        <ForWhom account={account} onChange={setAccount} everyone="Every account's programs find it; the device asks for its passcode." />
      ) : null}
      {device?.slots.includes("profile") ? (
        <View role="radiogroup" aria-label="Profiles">
          <Drawer label="In which profiles">
            <RadioRow
              first
              label="One for the whole family"
              note="The tablet asks for its passcode once."
              chosen={profiles === "family"}
              onPress={() => setProfiles("family")}
            />
            <RadioRow
              first={false}
              label="One for each style"
              note="Each can be removed by itself; the tablet asks for its passcode every time."
              chosen={profiles === "style"}
              onPress={() => setProfiles("style")}
              testID="profile-each"
            />
            <RadioRow
              first={false}
              label="One for everything"
              note="Together with what else came that way: one profile to install, and one to remove."
              chosen={profiles === "together"}
              onPress={() => setProfiles("together")}
              testID="profile-together"
            />
          </Drawer>
        </View>
      ) : null}
      <Drawer label="On a device that is not here">
        <LinkRow
          first
          href={`/tablet?family=${familyId}`}
          icon={Tablet}
          label="A tablet, by a profile"
          note="A file that the tablet reads itself."
          testID="to-tablet"
        />
        <ActRow
          icon={Luggage}
          label="A machine without a connection, by a kit"
          note="One zip: fonts, papers, profiles, a checklist to print, install scripts."
          onPress={() => saveFrom(`/api/kit?families=${familyId}`)}
          testID="save-kit"
        />
      </Drawer>
    </Screen>
  );
}
