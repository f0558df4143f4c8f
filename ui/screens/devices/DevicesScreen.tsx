// Devices: what each one holds, trouble first, and how to add one.
import { Link } from "expo-router";
import { View } from "react-native";
import type { DeviceSummary } from "../../../contract/devices.ts";
import { count } from "../../../core/words/words.ts";
import { SORT_WORDS, troubleWords } from "../../data/devices.ts";
import { useDevices, useSettings } from "../../data/hooks.ts";
import { Drawer } from "../../parts/Drawer.tsx";
import { Computer, FlaskConical, Laptop, Monitor, Smartphone, Tablet, TriangleAlert, Wifi } from "../../parts/icons.ts";
import { ActRow, LinkRow } from "../../parts/LinkRow.tsx";
import { Screen } from "../../parts/Screen.tsx";
import { ApiProblemNote, Empty, Loaded } from "../../parts/Status.tsx";
import { Body, Small, Strong } from "../../parts/Text.tsx";
import { usePalette } from "../../theme/theme.ts";
import { useBringOut } from "../practice/bringOut.ts";
import { SAY } from "../../sentences/devices/devices.ts";

const ICONS = { laptop: Laptop, desktop: Monitor, tablet: Tablet, phone: Smartphone };

function DeviceCard({ device, current }: { device: DeviceSummary; current: boolean }) {
  const palette = usePalette();
  const Icon = device.sort === "computer" ? Computer : ICONS[device.kind];
  const trouble = device.problem ? [device.problem.message] : troubleWords(device);
  return (
    <Link href={`/device/${device.id}`} className="mb-3 w-full" testID="device-card" aria-current={current ? "true" : undefined}>
      <View className={`w-full flex-row items-center gap-3 border bg-drawer p-3 ${current ? "border-ink" : "border-edge"}`}>
        <Icon size={28} color={palette.ink} aria-hidden />
        <View className="min-w-0 flex-1">
          <Strong lines={1}>{device.name}</Strong>
          <Small>
            {device.placedFonts === 0 ? SAY.noFontsPlaced : `${count(device.placedFonts, "font")} placed`}
            {device.trouble.off > 0 ? `, ${device.trouble.off} turned off` : ""}
            {device.programs.length > 0 ? ` · ${count(device.programs.length, "program")}` : ""}
          </Small>
          {trouble.length > 0 ? (
            <View className="mt-1 flex-row items-center gap-2" testID="device-trouble">
              <TriangleAlert size={16} color={palette.warning} aria-hidden />
              <Small className="min-w-0 flex-1 text-warning">{trouble.join(" · ")}</Small>
            </View>
          ) : null}
          <Small>{SORT_WORDS[device.sort]}</Small>
        </View>
      </View>
    </Link>
  );
}

/** Devices with trouble come first; those without keep their order. */
const troubleFirst = (devices: readonly DeviceSummary[]): DeviceSummary[] =>
  [...devices].sort((a, b) => Number(troubleWords(b).length > 0) - Number(troubleWords(a).length > 0));

export function DevicesScreen({ currentId }: { currentId?: number }) {
  const answer = useDevices();
  const settings = useSettings();
  const bringOut = useBringOut();
  return (
    <Screen title={SAY.devices} testID="devices">
      <Loaded answer={answer} what={SAY.lookingAtTheDevices}>
        {(devices) =>
          devices.length === 0 ? (
            <Empty title={SAY.yourDevicesWillBeHere}>
              <Body>{SAY.eachWithTheFontsPlaced}</Body>
            </Empty>
          ) : (
            troubleFirst(devices).map((device) => <DeviceCard key={device.id} device={device} current={device.id === currentId} />)
          )
        }
      </Loaded>
      {bringOut.problem ? <ApiProblemNote problem={bringOut.problem} /> : null}
      <Drawer label={SAY.addADevice} className="mt-2">
        <LinkRow first href="/pairing" icon={Wifi} label={SAY.pairATabletPhoneOr} note={SAY.itOpensBuvanoOverYour} testID="to-pairing" />
        {settings.data && !settings.data.thisComputer ? (
          <LinkRow href="/where" icon={Computer} label={SAY.useThisComputer} note={SAY.theOneBuvanoRunsOn} testID="to-this-computer" />
        ) : null}
        {settings.data && !settings.data.practice ? (
          <ActRow
            icon={FlaskConical}
            label={SAY.tryItWithPracticeDevices}
            note={SAY.simulatedDevicesAndProgramsThat}
            onPress={bringOut.run}
            disabled={bringOut.busy}
            testID="to-practice"
          />
        ) : null}
      </Drawer>
      {settings.data?.practice ? <Small>{SAY.practiceDevicesAreSimulatedAnd}</Small> : null}
    </Screen>
  );
}
