// Where somebody works: this computer, a device of theirs, or practice devices to try things on; and the programs on it, by kind.
import { useRouter } from "expo-router";
import { useCallback } from "react";
import { View } from "react-native";
import type { DeviceSummary } from "../../contract/device.ts";
import { ProgramNames, ProgramSummary, USUAL_TRAITS, type ProgramKind } from "../../contract/program.ts";
import { Settings } from "../../contract/settings.ts";
import { count } from "../../core/words/words.ts";
import { send } from "../data/api.ts";
import { KIND_WORDS } from "../data/devices.ts";
import { useDevices, useSettings } from "../data/hooks.ts";
import { useAction } from "../data/useAction.ts";
import { Button } from "../parts/Button.tsx";
import { Drawer, DrawerRow } from "../parts/Drawer.tsx";
import { TextField, useContractForm } from "../parts/form.tsx";
import { Computer, FlaskConical, Wifi } from "../parts/icons.ts";
import { ActRow, LinkRow } from "../parts/LinkRow.tsx";
import { Screen } from "../parts/Screen.tsx";
import { ApiProblemNote, Loaded } from "../parts/Status.tsx";
import { Body } from "../parts/Text.tsx";
import { Tick } from "../parts/Tick.tsx";

const KINDS = Object.keys(KIND_WORDS) as ProgramKind[];
const USED_WORDS: Record<ProgramKind, string> = {
  design: "I use a design program",
  office: "I use an office program",
  video: "I use a video program",
  cutting: "I use a cutting program",
  notes: "I use a notes program",
  browser: "I use a browser-based editor",
};
const usualName = (kind: ProgramKind): string => `My ${KIND_WORDS[kind]}`;

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
          await send("POST", "/programs", ProgramSummary, { ...{ deviceId: device.id, kind, name }, traits: USUAL_TRAITS[kind] });
          form.unregister(`names.${kind}`);
        }
        form.reset({ names: {} });
      },
      [device.id, form],
    ),
  );
  return (
    <Drawer
      label={`Programs on ${device.name}`}
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
              <TextField form={form} name={`names.${kind}`} label="What you call it" testID={`where-name-${kind}`} />
            </View>
          )}
        </View>
      ))}
      <DrawerRow className="items-start">
        <Button
          strong={wanted.length > 0}
          label={wanted.length > 0 ? `Add ${count(wanted.length, "program")}` : "Add programs"}
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
  const own = (devices.data ?? []).filter((device) => device.sort !== "practice");
  return (
    <Screen
      title="Where do you work?"
      note="Buvano places fonts there, and says where each program lists them."
      back="/"
      testID="where"
      action={
        <Button
          strong={(devices.data ?? []).some((device) => device.programs.length > 0)}
          label="Done"
          onPress={() => router.replace("/")}
          testID="where-done"
        />
      }
    >
      {choose.problem ? <ApiProblemNote problem={choose.problem} /> : null}
      <Loaded answer={settings} what="Looking at your choices">
        {(value) => (
          <Drawer label="Your devices">
            {value.thisComputer ? (
              <DrawerRow first>
                <Body>This computer is one of your devices.</Body>
              </DrawerRow>
            ) : (
              <ActRow
                first
                icon={Computer}
                label="This computer"
                note="The one Buvano runs on. Nothing on it changes before you carry out a plan."
                onPress={() => choose.run({ thisComputer: true })}
                disabled={choose.busy}
                testID="where-this-computer"
              />
            )}
            <LinkRow
              icon={Wifi}
              href="/pairing"
              label="A tablet, phone or other computer"
              note="It opens Buvano over your network by a short code."
            />
            {value.practice ? null : (
              <ActRow
                icon={FlaskConical}
                label="Try it with practice devices"
                note="Simulated devices and programs that ship with Buvano. They can be put away at any time."
                onPress={() => choose.run({ practice: true })}
                disabled={choose.busy}
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
