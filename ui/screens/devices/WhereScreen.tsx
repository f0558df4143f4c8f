// Where somebody works: this computer, a device of theirs, or practice devices to try things on; and the programs on it, by kind.
import { useRouter } from "expo-router";
import { useCallback } from "react";
import { View } from "react-native";
import type { DeviceSummary } from "../../../contract/devices.ts";
import { ProgramNames, ProgramSummary, USUAL_TRAITS, type ProgramKind } from "../../../contract/programs.ts";
import { Settings } from "../../../contract/settings.ts";
import { count } from "../../../core/words/words.ts";
import { send } from "../../data/api.ts";
import { KIND_WORDS } from "../../data/devices.ts";
import { useDevices, useSettings } from "../../data/hooks.ts";
import { useAction } from "../../data/useAction.ts";
import { Button } from "../../parts/Button.tsx";
import { Drawer, DrawerRow } from "../../parts/Drawer.tsx";
import { TextField, useContractForm } from "../../parts/form.tsx";
import { Computer, FlaskConical, Wifi } from "../../parts/icons.ts";
import { ActRow, LinkRow } from "../../parts/LinkRow.tsx";
import { Screen } from "../../parts/Screen.tsx";
import { ApiProblemNote, Loaded } from "../../parts/Status.tsx";
import { Body } from "../../parts/Text.tsx";
import { Tick } from "../../parts/Tick.tsx";
import { useBringOut } from "../practice/bringOut.ts";
import { SAY } from "../../sentences/devices/where.ts";

const KINDS = Object.keys(KIND_WORDS) as ProgramKind[];
const USED_WORDS: Record<ProgramKind, string> = {
  design: SAY.iUseADesignProgram,
  office: SAY.iUseAnOfficeProgram,
  video: SAY.iUseAVideoProgram,
  cutting: SAY.iUseACuttingProgram,
  notes: SAY.iUseANotesProgram,
  browser: SAY.iUseABrowserBased,
};
const usualName = (kind: ProgramKind): string => SAY.myKindWords(KIND_WORDS[kind]);

/** Programs somebody uses on a device: a tick for each kind, and what they call it. */
function Programs({ device }: { device: DeviceSummary }) {
  const form = useContractForm(ProgramNames, { names: {} });
  const { names } = form.watch();
  const wanted = KINDS.filter((kind) => names[kind] !== undefined);
  const put = (kind: ProgramKind, on: boolean) =>
    form.setValue(
      "names",
      Object.fromEntries([
        ...wanted.filter((one) => one !== kind).map((one) => [one, names[one]]),
        ...(on ? [[kind, usualName(kind)]] : []),
      ]),
    );
  const add = useAction(
    useCallback(
      async (asked: ProgramNames) => {
        for (const kind of KINDS) {
          const name = asked.names[kind];
          if (name === undefined) continue;
          await send("POST", "/programs", ProgramSummary, { deviceId: device.id, kind, name, traits: USUAL_TRAITS[kind] });
          form.unregister(`names.${kind}`);
        }
        form.reset({ names: {} });
      },
      [device.id, form],
    ),
  );
  return (
    <Drawer
      label={SAY.programsOnName(device.name)}
      note={device.programs.length > 0 ? count(device.programs.length, "program") : undefined}
      testID="where-programs"
    >
      {add.problem ? <ApiProblemNote problem={add.problem} /> : null}
      {device.programs.map((program, i) => (
        <DrawerRow key={program.id} first={i === 0}>
          <Body>
            {program.name}, {KIND_WORDS[program.kind]}
          </Body>
        </DrawerRow>
      ))}
      {KINDS.map((kind, i) => (
        <View key={kind}>
          <Tick
            first={i === 0 && device.programs.length === 0}
            label={USED_WORDS[kind]}
            on={names[kind] !== undefined}
            onChange={(on) => put(kind, on)}
            testID={`where-${kind}`}
          />
          {names[kind] === undefined ? null : (
            <View className="px-3">
              <TextField form={form} name={`names.${kind}`} label={SAY.whatYouCallIt} testID={`where-name-${kind}`} />
            </View>
          )}
        </View>
      ))}
      <DrawerRow className="items-start">
        <Button
          strong={wanted.length > 0}
          label={wanted.length > 0 ? SAY.addWanted(wanted.length) : SAY.addPrograms}
          busy={add.busy}
          disabled={wanted.length === 0}
          onPress={() => void form.handleSubmit(add.run)()}
          testID="where-add"
        />
      </DrawerRow>
    </Drawer>
  );
}

export function WhereScreen() {
  const devices = useDevices();
  const settings = useSettings();
  const router = useRouter();
  const choose = useAction(
    useCallback(async (change: Partial<Settings>) => {
      await send("POST", "/settings", Settings, change);
    }, []),
  );
  const bringOut = useBringOut();
  const own = (devices.data ?? []).filter((device) => device.sort !== "practice");
  return (
    <Screen
      title={SAY.whereDoYouWork}
      note={SAY.buvanoPlacesFontsThereAnd}
      back="/"
      testID="where"
      action={
        <Button
          strong={(devices.data ?? []).some((device) => device.programs.length > 0)}
          label={SAY.done}
          onPress={() => router.replace("/")}
          testID="where-done"
        />
      }
    >
      {bringOut.problem ? <ApiProblemNote problem={bringOut.problem} /> : null}
      {choose.problem ? <ApiProblemNote problem={choose.problem} /> : null}
      <Loaded answer={settings} what={SAY.lookingAtYourChoices}>
        {(value) => (
          <Drawer label={SAY.yourDevices}>
            {value.thisComputer ? (
              <DrawerRow first>
                <Body>{SAY.thisComputerIsOneOf}</Body>
              </DrawerRow>
            ) : (
              <ActRow
                first
                icon={Computer}
                label={SAY.thisComputer}
                note={SAY.theOneBuvanoRunsOn}
                onPress={() => choose.run({ thisComputer: true })}
                disabled={choose.busy}
                testID="where-this-computer"
              />
            )}
            <LinkRow icon={Wifi} href="/pairing" label={SAY.aTabletPhoneOrOther} note={SAY.itOpensBuvanoOverYour} />
            {value.practice ? (
              <DrawerRow>
                <Body>{SAY.practiceDevicesAreAmong}</Body>
              </DrawerRow>
            ) : (
              <ActRow
                icon={FlaskConical}
                label={SAY.tryItWithPracticeDevices}
                note={SAY.simulatedDevicesAndProgramsThat}
                onPress={bringOut.run}
                disabled={bringOut.busy}
                testID="where-practice"
              />
            )}
          </Drawer>
        )}
      </Loaded>
      {own.map((device) => (
        <Programs key={device.id} device={device} />
      ))}
    </Screen>
  );
}
