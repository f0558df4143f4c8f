// Where fonts go, one form wherever that is asked: for whom, on which devices, and on tablets in which profiles. Each device chosen gets a plan.
import { useState } from "react";
import { View } from "react-native";
import type { DeviceSummary } from "../../../contract/devices.ts";
import type { PlanRequest, ProfilesBy } from "../../../contract/placing.ts";
import { useDevices } from "../../data/hooks.ts";
import { Button } from "../../parts/Button.tsx";
import { Drawer } from "../../parts/Drawer.tsx";
import { ForWhom } from "../../parts/ForWhom.tsx";
import { Plus } from "../../parts/icons.ts";
import { LinkRow } from "../../parts/LinkRow.tsx";
import { RadioRow } from "../../parts/RadioRow.tsx";
import { ApiProblemNote, Loaded } from "../../parts/Status.tsx";
import { Tick } from "../../parts/Tick.tsx";
import { usePlanning } from "./planning.ts";
import { SAY } from "../../sentences/placing/place.ts";

/** What is placed: families, single styles of them, or all of a job. */
export type Placed = Pick<PlanRequest, "familyIds" | "styleIds" | "jobId">;

interface Asked {
  what: Placed;
  /** Several families go into a tablet's one profile unless something else is wanted. */
  many: boolean;
}

/** The state of the form. A single device is chosen beforehand. */
export function usePlacing({ what, many }: Asked) {
  const devices = useDevices();
  const [ticked, setTicked] = useState<ReadonlySet<number>>();
  const [wished, setAccount] = useState<"me" | "everyone">("me");
  const [profiles, setProfiles] = useState<ProfilesBy>();
  const plan = usePlanning();
  const all = devices.data ?? [];
  const chosen = ticked ? all.filter(({ id }) => ticked.has(id)) : all.length === 1 ? all : [];
  const toggle = (id: number) => {
    const next = new Set(chosen.map((one) => one.id));
    if (!next.delete(id)) next.add(id);
    setTicked(next);
  };
  const profilesOf = (device: DeviceSummary): ProfilesBy | undefined =>
    device.slots.includes("profile") ? (profiles ?? (many || device.sort === "paired" ? "together" : "family")) : undefined;
  const draw = (action: PlanRequest["action"], on: readonly DeviceSummary[] = chosen) =>
    plan.run(
      on.map((device): PlanRequest => ({
        deviceId: device.id,
        action,
        account: device.slots.includes("everyone") ? wished : "me",
        ...what,
        profiles: profilesOf(device),
      })),
    );
  return { devices, chosen, toggle, account: wished, setAccount, profilesOf, setProfiles, plan, draw };
}
type Placing = ReturnType<typeof usePlacing>;

const PROFILES: readonly { by: ProfilesBy; label: string; note: string }[] = [
  { by: "family", label: SAY.oneForTheWholeFamily, note: SAY.theTabletAsksForIts },
  { by: "style", label: SAY.oneForEachStyle, note: SAY.eachCanBeRemovedBy },
  { by: "together", label: SAY.oneForEverything, note: SAY.togetherWithWhatElseCame },
];

/** `noteOf` says what is on a device already. */
export function PlaceChoices({ placing, noteOf }: { placing: Placing; noteOf: (device: DeviceSummary) => string }) {
  const { devices, chosen, toggle, account, setAccount, profilesOf, setProfiles, plan } = placing;
  const tablet = chosen.find((device) => device.slots.includes("profile"));
  const profiles = tablet && profilesOf(tablet);
  return (
    <>
      {plan.problem ? <ApiProblemNote problem={plan.problem} /> : null}
      <Loaded answer={devices} what={SAY.lookingAtTheDevices}>
        {(list) => (
          <>
            {list.some((device) => device.slots.includes("everyone")) ? (
              <ForWhom account={account} onChange={setAccount} everyone={SAY.whereADeviceHasAccounts} />
            ) : null}
            <View role="group" aria-label={SAY.onWhichDevices}>
              <Drawer label={list.length === 0 ? SAY.noDeviceYet : SAY.onWhichDevices}>
                {list.map((device, i) => (
                  <Tick
                    key={device.id}
                    first={i === 0}
                    label={device.name}
                    note={noteOf(device)}
                    on={chosen.includes(device)}
                    onChange={() => toggle(device.id)}
                    testID={`device-${device.name}`}
                  />
                ))}
                <LinkRow
                  first={list.length === 0}
                  href="/devices"
                  icon={Plus}
                  label={SAY.addADevice}
                  note={list.length === 0 ? SAY.fontsArePlacedOnDevices : SAY.thisComputerATabletOr}
                  testID="add-device"
                />
              </Drawer>
            </View>
          </>
        )}
      </Loaded>
      {tablet ? (
        <View role="radiogroup" aria-label={SAY.profiles}>
          <Drawer label={SAY.inWhichProfiles}>
            {PROFILES.map(({ by, label, note }, i) => (
              <RadioRow
                key={by}
                first={i === 0}
                label={label}
                note={note}
                chosen={profiles === by}
                onPress={() => setProfiles(by)}
                testID={`profile-${by}`}
              />
            ))}
          </Drawer>
        </View>
      ) : null}
    </>
  );
}

/** Draws the plans: says what is missing until a device is chosen. */
export function ShowPlan({ placing }: { placing: Placing }) {
  const { chosen, plan, draw } = placing;
  return (
    <Button
      strong
      label={chosen.length === 0 ? SAY.chooseADevice : chosen.length === 1 ? SAY.showThePlan : SAY.showThePlans(chosen.length)}
      busy={plan.busy}
      disabled={chosen.length === 0}
      onPress={() => draw("place")}
      testID="draw-plan"
    />
  );
}
