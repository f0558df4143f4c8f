// Choices made once for all: the watched folder, what archives may unpack to, which format is taken.
import { useCallback } from "react";
import { View } from "react-native";
import { ArchiveLimits, DEFAULT_ARCHIVE_LIMITS, EvidenceLimit, Settings, WatchedFolder, WatchReport } from "../../contract/settings.ts";
import { count } from "../../core/words/words.ts";
import { send } from "../data/api.ts";
import { useLibraryState, useSettings, useWatchReport } from "../data/hooks.ts";
import { useAction } from "../data/useAction.ts";
import { Button } from "../parts/Button.tsx";
import { Drawer, DrawerRow } from "../parts/Drawer.tsx";
import { NumberField, TextField, useKeptForm } from "../parts/form.tsx";
import { Screen } from "../parts/Screen.tsx";
import { ApiProblemNote, Loaded, ProblemNote } from "../parts/Status.tsx";
import { Body, Small, Strong } from "../parts/Text.tsx";
import { Tick } from "../parts/Tick.tsx";
import { DemoDrawer } from "./DemoDrawer.tsx";

const save = (change: object) => send("POST", "/settings", Settings, change);

function Watched({ folder }: { folder: string | null }) {
  const report = useWatchReport();
  const form = useKeptForm(WatchedFolder, { watchedFolder: folder ?? report.data?.suggestion ?? "" });
  const watch = useAction(
    useCallback(
      async (watchedFolder: string | null) => {
        await save({ watchedFolder });
        form.reset({ watchedFolder: watchedFolder ?? "" });
      },
      [form],
    ),
  );
  const earlier = useAction(useCallback(() => send("POST", "/settings/watch/take-earlier", WatchReport), []));
  const begin = () => void form.handleSubmit(({ watchedFolder }) => watch.run(watchedFolder))();
  const value = form.watch("watchedFolder");
  return (
    <Drawer label="Watched folder" testID="watched">
      <DrawerRow first>
        <Body className="mb-3">
          Archives and fonts that arrive in this folder become parcels by themselves. The files stay where they are.
        </Body>
        {watch.problem ? <ApiProblemNote problem={watch.problem} /> : null}
        <TextField form={form} name="watchedFolder" label="Folder on the computer Buvano runs on" onDone={begin} testID="watched-folder" />
        <View className="flex-row flex-wrap gap-2">
          {folder === null || value !== folder ? (
            <Button
              strong
              label={folder === null ? "Watch this folder" : "Watch this one instead"}
              busy={watch.busy}
              onPress={begin}
              testID="watch"
            />
          ) : null}
          {folder !== null ? <Button label="Stop watching" busy={watch.busy} onPress={() => watch.run(null)} testID="unwatch" /> : null}
        </View>
      </DrawerRow>
      {folder !== null && report.data ? (
        <DrawerRow>
          {report.data.problem ? <ProblemNote message={report.data.problem.message} next={report.data.problem.next} /> : null}
          <Body testID="watch-counts">
            {count(report.data.taken, "file")} taken in, {report.data.passedOver} passed over.
          </Body>
          {report.data.latest.map((one) => (
            <Small key={one.name + one.at}>
              {one.name}: {one.outcome}
            </Small>
          ))}
          {report.data.before > 0 ? (
            <View className="mt-2">
              <Button
                label={`Also take in the ${report.data.before} that lay there before`}
                busy={earlier.busy}
                onPress={earlier.run}
                testID="take-earlier"
              />
            </View>
          ) : null}
        </DrawerRow>
      ) : null}
    </Drawer>
  );
}

const LIMITS: readonly { key: keyof ArchiveLimits; label: string; hint: string }[] = [
  { key: "entries", label: "Entries", hint: "Files and folders in one archive." },
  { key: "totalMib", label: "Unpacked in all", hint: "MiB, everything in one archive together." },
  { key: "entryMib", label: "One entry", hint: "MiB, unpacked." },
  { key: "ratio", label: "Maximum expansion", hint: "How many times larger than packed one entry may become." },
  { key: "depth", label: "Archives inside archives", hint: "How deep they are opened." },
];

function Limits({ limits }: { limits: ArchiveLimits }) {
  const form = useKeptForm(ArchiveLimits, limits);
  const change = useAction(
    useCallback(
      async (next: ArchiveLimits) => {
        await save({ limits: next });
        form.reset(next);
      },
      [form],
    ),
  );
  const changed = form.formState.isDirty;
  const standard = LIMITS.every(({ key }) => limits[key] === DEFAULT_ARCHIVE_LIMITS[key]);
  return (
    <Drawer label="What an archive may unpack to" testID="limits">
      <DrawerRow first>
        <Body className="mb-3">Some archives are traps that fill a disk. Whatever passes one of these limits is left out and named.</Body>
        {change.problem ? <ApiProblemNote problem={change.problem} /> : null}
        {LIMITS.map(({ key, label, hint }) => (
          <NumberField key={key} form={form} name={key} label={label} hint={hint} testID={`limit-${key}`} />
        ))}
        <View className="flex-row flex-wrap gap-2">
          <Button
            strong={changed}
            label="Keep these limits"
            busy={change.busy}
            disabled={!changed}
            onPress={() => void form.handleSubmit(change.run)()}
            testID="keep-limits"
          />
          {standard ? null : <Button label="Back to the safe ones" onPress={() => change.run(DEFAULT_ARCHIVE_LIMITS)} />}
        </View>
      </DrawerRow>
    </Drawer>
  );
}

function Formats({ chosen }: { chosen: Settings["twinFormat"] }) {
  const choose = useAction(useCallback((twinFormat: "otf" | "ttf") => save({ twinFormat }), []));
  return (
    <Drawer label="Styles in two formats">
      <DrawerRow first>
        <Strong>Which file is taken when a style comes as .otf and as .ttf</Strong>
        <Small className="mb-2">Either works on a computer; tablets prefer .otf.</Small>
        <View className="flex-row gap-2" role="group" aria-label="Format to take">
          <Button label=".otf" pressed={chosen === "otf"} busy={choose.busy} onPress={() => choose.run("otf")} />
          <Button label=".ttf" pressed={chosen === "ttf"} busy={choose.busy} onPress={() => choose.run("ttf")} />
        </View>
      </DrawerRow>
    </Drawer>
  );
}

function ThisComputer({ wanted }: { wanted: boolean }) {
  const choose = useAction(useCallback((thisComputer: boolean) => save({ thisComputer }), []));
  return (
    <Drawer label="This computer" testID="this-computer">
      {choose.problem ? <ApiProblemNote problem={choose.problem} /> : null}
      <Tick
        first
        label="Use this computer as a device"
        note="Buvano then lists the fonts of the account it runs under, and places fonts in that account's own folder, always through a plan. Nothing outside that folder is changed."
        on={wanted}
        onChange={choose.run}
        testID="use-this-computer"
      />
    </Drawer>
  );
}

function Evidence({ keep, most }: { keep: boolean; most: number }) {
  const form = useKeptForm(EvidenceLimit, { evidenceMib: most });
  const change = useAction(
    useCallback(
      async (next: Partial<Settings>) => {
        await save(next);
        if (next.evidenceMib !== undefined) form.reset({ evidenceMib: next.evidenceMib });
      },
      [form],
    ),
  );
  return (
    <Drawer label="Evidence that is kept" testID="keep-evidence">
      {change.problem ? <ApiProblemNote problem={change.problem} /> : null}
      <Tick
        first
        label="Keep files that were given as evidence"
        note="They can be opened again from the style they speak for. Turned off, no more are kept, and those that are go when Buvano next starts."
        on={keep}
        onChange={(keepEvidence) => change.run({ keepEvidence })}
        testID="keep-evidence-files"
      />
      {keep ? (
        <DrawerRow>
          <NumberField
            form={form}
            name="evidenceMib"
            label="MiB kept at most"
            hint="The oldest files go first; what they showed stays on record."
            testID="evidence-mib"
          />
          <View className="items-start">
            <Button
              strong={form.formState.isDirty}
              label="Keep this limit"
              busy={change.busy}
              disabled={!form.formState.isDirty}
              onPress={() => void form.handleSubmit(change.run)()}
              testID="keep-evidence-mib"
            />
          </View>
        </DrawerRow>
      ) : null}
    </Drawer>
  );
}
/** The practice devices, brought out or put away. */
function Practice({ wanted }: { wanted: boolean }) {
  const choose = useAction(useCallback((practice: boolean) => save({ practice }), []));
  return (
    <Drawer label="Practice devices" testID="practice-setting">
      {choose.problem ? <ApiProblemNote problem={choose.problem} /> : null}
      <Tick
        first
        label="Have practice devices"
        note="Simulated devices and programs to try everything on. Put away, they keep what lies on them."
        on={wanted}
        onChange={choose.run}
        testID="practice-on"
      />
    </Drawer>
  );
}

export function SettingsScreen() {
  const settings = useSettings();
  const library = useLibraryState();
  return (
    <Screen title="Settings" back="/" testID="settings">
      <Loaded answer={settings} what="Fetching your settings">
        {(value) => (
          <>
            <Watched folder={value.watchedFolder} />
            <ThisComputer wanted={value.thisComputer} />
            <Practice wanted={value.practice} />
            {library.data?.demo ? <DemoDrawer /> : null}
            <Formats chosen={value.twinFormat} />
            <Evidence keep={value.keepEvidence} most={value.evidenceMib} />
            <Limits limits={value.limits} />
          </>
        )}
      </Loaded>
    </Screen>
  );
}
