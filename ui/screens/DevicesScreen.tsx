// Devices: what each one holds, and the practice room behind it.
import { Link } from "expo-router";
import { Laptop, Monitor, Tablet } from "../parts/icons.ts";
import { View } from "react-native";
import type { DeviceDetail, DeviceSummary } from "../../contract/device.ts";
import type { ProgramSummary } from "../../contract/program.ts";
import { count } from "../../core/words/words.ts";
import { useDevice, useDevices } from "../data/hooks.ts";
import { Drawer, DrawerRow } from "../parts/Drawer.tsx";
import { Screen } from "../parts/Screen.tsx";
import { Loaded } from "../parts/Status.tsx";
import { Body, Small, Strong } from "../parts/Text.tsx";
import { usePalette } from "../theme/theme.ts";

const ICONS = { laptop: Laptop, desktop: Monitor, tablet: Tablet };

export const KIND_WORDS: Record<ProgramSummary["kind"], string> = {
  design: "design program",
  office: "office program",
  video: "video program",
  cutting: "cutting program",
  notes: "notes program",
  browser: "browser-based editor",
};

function DeviceCard({ device, current }: { device: DeviceSummary; current: boolean }) {
  const palette = usePalette();
  const Icon = ICONS[device.kind];
  return (
    <Link href={`/device/${device.id}`} className="mb-3 w-full" testID="device-card" aria-current={current ? "true" : undefined}>
      <View className={`w-full flex-row items-center gap-3 border bg-drawer p-3 ${current ? "border-ink" : "border-edge"}`}>
        <Icon size={28} color={palette.ink} aria-hidden />
        <View className="min-w-0 flex-1">
          <Strong lines={1}>{device.name}</Strong>
          <Small>
            {device.placedFonts === 0 ? "No fonts placed" : `${count(device.placedFonts, "font")} placed`} ·{" "}
            {count(device.programs.length, "program")}
          </Small>
          <Small>Practice device</Small>
        </View>
      </View>
    </Link>
  );
}

export function DevicesScreen({ currentId }: { currentId?: number }) {
  const answer = useDevices();
  return (
    <Screen
      title="Devices"
      note="These are simulated and ship with Buvano, so that you can try everything without touching your own computer."
      testID="devices"
    >
      <Loaded answer={answer} what="Looking at the devices">
        {(devices) => devices.map((device) => <DeviceCard key={device.id} device={device} current={device.id === currentId} />)}
      </Loaded>
    </Screen>
  );
}

function Fonts({ device }: { device: DeviceDetail }) {
  const placed = device.fonts.filter((font) => font.account !== "built-in");
  const builtIn = device.fonts.filter((font) => font.account === "built-in");
  return (
    <>
      <Drawer label="Placed fonts" note={count(placed.length, "font")}>
        {placed.length === 0 ? (
          <DrawerRow first>
            <Body>None yet. Open a family and place it here.</Body>
          </DrawerRow>
        ) : (
          placed.map((font, i) => (
            <DrawerRow key={font.account + font.fileName + font.style} first={i === 0} testID="placed-font">
              <Strong lines={1}>
                {font.family}, {font.style}
              </Strong>
              <Small>
                {font.fileName}, {font.account === "me" ? "for me" : "for everyone"}, {font.on ? "on" : "off"}
                {font.familyId === null ? " — not in the library" : ""}
              </Small>
            </DrawerRow>
          ))
        )}
      </Drawer>
      <Drawer label="Came with the device" note={count(builtIn.length, "font")}>
        <DrawerRow first>
          <Body>{[...new Set(builtIn.map((font) => font.family))].join(", ")}</Body>
        </DrawerRow>
      </Drawer>
    </>
  );
}

export function DeviceScreen({ id }: { id: number }) {
  const answer = useDevice(id);
  const seen = answer.data?.observedAt;
  return (
    <Screen
      title={answer.data?.name ?? "Device"}
      note={seen ? `Looked at ${new Date(seen).toLocaleString(undefined, { dateStyle: "medium", timeStyle: "short" })}` : undefined}
      back="/devices"
      testID="device"
    >
      <Loaded answer={answer} what="Looking at the device">
        {(device) => (
          <>
            <Drawer label="Practice programs">
              {device.programs.map((program, i) => (
                <Link
                  key={program.id}
                  href={`/practice/${program.id}`}
                  className={`w-full ${i === 0 ? "" : "border-t border-edge"}`}
                  testID={`open-${program.name}`}
                >
                  <View className="min-h-[56px] w-full justify-center px-3 py-2">
                    <Strong>{program.name}</Strong>
                    <Small>
                      {KIND_WORDS[program.kind]},{" "}
                      {program.traits.readsWhen === "start" ? "reads fonts when it starts" : "notices new fonts by itself"}
                    </Small>
                  </View>
                </Link>
              ))}
            </Drawer>
            <Fonts device={device} />
          </>
        )}
      </Loaded>
    </Screen>
  );
}
