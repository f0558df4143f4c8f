// A practice tablet's own settings: profiles that wait, allowing and installing them with the passcode, and removing them.
import { useCallback, useState } from "react";
import { View } from "react-native";
import { useSWRConfig } from "swr";
import { TabletProfiles, type ProfileAct } from "../../../contract/devices.ts";
import { count } from "../../../core/words/words.ts";
import { send } from "../../data/api.ts";
import { useTabletProfiles } from "../../data/hooks.ts";
import { useAction } from "../../data/useAction.ts";
import { Button } from "../../parts/Button.tsx";
import { Drawer, DrawerRow } from "../../parts/Drawer.tsx";
import { Field } from "../../parts/Field.tsx";
import { Screen } from "../../parts/Screen.tsx";
import { ApiProblemNote, Empty, Loaded } from "../../parts/Status.tsx";
import { Body, Small, Strong } from "../../parts/Text.tsx";
import { SAY } from "../../sentences/practice/practice.ts";

type Profile = TabletProfiles["profiles"][number];
const STATE_WORDS: Record<Profile["state"], string> = {
  waiting: SAY.wasLoadedAndWaitsTo,
  allowed: SAY.allowedNotInstalledYet,
  installed: SAY.installed,
};

function Entry({ deviceId, profile, first }: { deviceId: number; profile: Profile; first: boolean }) {
  const { mutate } = useSWRConfig();
  const [passcode, setPasscode] = useState<string>();
  const { id, state } = profile;
  const act = useAction(
    useCallback(
      async (what: ProfileAct["act"], code = "") => {
        const key = `/devices/${deviceId}/profiles`;
        await mutate(key, await send("POST", `${key}/${id}`, TabletProfiles, { act: what, passcode: code }), { revalidate: false });
        setPasscode(undefined);
      },
      [deviceId, id, mutate],
    ),
  );
  const guarded = state === "installed" ? "remove" : "install";
  const asking = passcode !== undefined && state !== "waiting";
  return (
    <DrawerRow first={first} testID="profile">
      <Strong>{profile.name}</Strong>
      <Small>{SAY.stateWordsFromOrganisationDescription(STATE_WORDS[state], profile.organisation, profile.description)}</Small>
      <Small>{profile.fonts.join(", ")}</Small>
      {asking ? (
        <View className="mt-2">
          <Field
            label={SAY.theTabletsPasscode}
            secret
            value={passcode}
            onChange={setPasscode}
            onDone={() => act.run(guarded, passcode)}
            problem={act.problem ? `${act.problem.message} ${act.problem.next}` : undefined}
            testID="tablet-passcode"
          />
          <View className="flex-row gap-2">
            <Button
              strong
              label={guarded === "install" ? SAY.install : SAY.remove}
              busy={act.busy}
              onPress={() => act.run(guarded, passcode)}
              testID="tablet-confirm"
            />
            <Button label={SAY.notNow} onPress={() => setPasscode(undefined)} />
          </View>
        </View>
      ) : (
        <View className="mt-2 flex-row flex-wrap gap-2">
          {act.problem ? <ApiProblemNote problem={act.problem} /> : null}
          {state === "waiting" ? (
            <Button strong={first} label={SAY.allow} busy={act.busy} onPress={() => act.run("allow")} testID="profile-allow" />
          ) : null}
          {state === "allowed" ? (
            <Button strong={first} label={SAY.install2} onPress={() => setPasscode("")} testID="profile-install" />
          ) : null}
          {state === "installed" ? (
            <Button label={SAY.remove2} onPress={() => setPasscode("")} testID="profile-remove" />
          ) : (
            <Button label={SAY.refuse} busy={act.busy} onPress={() => act.run("refuse")} testID="profile-refuse" />
          )}
        </View>
      )}
    </DrawerRow>
  );
}

export function TabletRoomScreen({ deviceId }: { deviceId: number }) {
  const answer = useTabletProfiles(deviceId);
  const waiting = answer.data?.profiles.filter((profile) => profile.state !== "installed") ?? [];
  const installed = answer.data?.profiles.filter((profile) => profile.state === "installed") ?? [];
  return (
    <Screen
      title={answer.data ? SAY.deviceNameProfiles(answer.data.deviceName) : SAY.profiles}
      note={answer.data ? SAY.aSimulatedTabletsSettingsIts(answer.data.passcode) : undefined}
      back={`/device/${deviceId}`}
      testID="tablet-room"
    >
      <Loaded answer={answer} what={SAY.openingTheTabletsSettings}>
        {(value) =>
          value.profiles.length === 0 ? (
            <Empty title={SAY.noProfiles}>
              <Body>{SAY.placeAFamilyOnThis}</Body>
            </Empty>
          ) : (
            <>
              {waiting.length > 0 ? (
                <Drawer label={SAY.waiting} note={count(waiting.length, "profile")}>
                  {waiting.map((profile, i) => (
                    <Entry key={profile.id} deviceId={deviceId} profile={profile} first={i === 0} />
                  ))}
                </Drawer>
              ) : null}
              {installed.length > 0 ? (
                <Drawer label={SAY.installed} note={count(installed.length, "profile")}>
                  {installed.map((profile, i) => (
                    <Entry key={profile.id} deviceId={deviceId} profile={profile} first={i === 0} />
                  ))}
                </Drawer>
              ) : null}
            </>
          )
        }
      </Loaded>
    </Screen>
  );
}
