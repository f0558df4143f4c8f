// Choices made once for all: the watched folder, what archives may unpack to, which format is taken.
import { useCallback } from "react";
import { View } from "react-native";
import { ArchiveLimits, DEFAULT_ARCHIVE_LIMITS, EvidenceLimit, Settings, WatchedFolder, WatchReport } from "../../../contract/settings.ts";
import { send } from "../../data/api.ts";
import { useLibraryState, useSettings, useWatchReport } from "../../data/hooks.ts";
import { useAction } from "../../data/useAction.ts";
import { Button } from "../../parts/Button.tsx";
import { Drawer, DrawerRow } from "../../parts/Drawer.tsx";
import { NumberField, TextField, useKeptForm } from "../../parts/form.tsx";
import { Screen } from "../../parts/Screen.tsx";
import { ApiProblemNote, Loaded, ProblemNote } from "../../parts/Status.tsx";
import { Body, Small, Strong } from "../../parts/Text.tsx";
import { Tick } from "../../parts/Tick.tsx";
import { BackupDrawer } from "./BackupDrawer.tsx";
import { DemoDrawer } from "./DemoDrawer.tsx";
import { SAY } from "../../sentences/settings/settings.ts";

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
    <Drawer label={SAY.watchedFolder} testID="watched">
      <DrawerRow first>
        <Body className="mb-3">{SAY.archivesAndFontsThatArrive}</Body>
        {watch.problem ? <ApiProblemNote problem={watch.problem} /> : null}
        <TextField form={form} name="watchedFolder" label={SAY.folderOnTheComputerBuvano} onDone={begin} testID="watched-folder" />
        <View className="flex-row flex-wrap gap-2">
          {folder === null || value !== folder ? (
            <Button
              strong
              label={folder === null ? SAY.watchThisFolder : SAY.watchThisOneInstead}
              busy={watch.busy}
              onPress={begin}
              testID="watch"
            />
          ) : null}
          {folder !== null ? <Button label={SAY.stopWatching} busy={watch.busy} onPress={() => watch.run(null)} testID="unwatch" /> : null}
        </View>
      </DrawerRow>
      {folder !== null && report.data ? (
        <DrawerRow>
          {report.data.problem ? <ProblemNote message={report.data.problem.message} next={report.data.problem.next} /> : null}
          <Body testID="watch-counts">{SAY.takenTakenInPassedOverPassed(report.data.taken, report.data.passedOver)}</Body>
          {report.data.latest.map((one) => (
            <Small key={one.name + one.at}>
              {one.name}: {one.outcome}
            </Small>
          ))}
          {report.data.before > 0 ? (
            <View className="mt-2">
              <Button label={SAY.alsoTakeInTheBefore(report.data.before)} busy={earlier.busy} onPress={earlier.run} testID="take-earlier" />
            </View>
          ) : null}
        </DrawerRow>
      ) : null}
    </Drawer>
  );
}

const LIMITS: readonly { key: keyof ArchiveLimits; label: string; hint: string }[] = [
  { key: "entries", label: SAY.entries, hint: SAY.filesAndFoldersInOne },
  { key: "totalMib", label: SAY.unpackedInAll, hint: SAY.miBEverythingInOneArchive },
  { key: "entryMib", label: SAY.oneEntry, hint: SAY.miBUnpacked },
  { key: "ratio", label: SAY.maximumExpansion, hint: SAY.howManyTimesLargerThan },
  { key: "depth", label: SAY.archivesInsideArchives, hint: SAY.howDeepTheyAreOpened },
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
    <Drawer label={SAY.whatAnArchiveMayUnpack} testID="limits">
      <DrawerRow first>
        <Body className="mb-3">{SAY.someArchivesAreMadeTo}</Body>
        {change.problem ? <ApiProblemNote problem={change.problem} /> : null}
        {LIMITS.map(({ key, label, hint }) => (
          <NumberField key={key} form={form} name={key} label={label} hint={hint} testID={`limit-${key}`} />
        ))}
        <View className="flex-row flex-wrap gap-2">
          <Button
            strong={changed}
            label={SAY.keepTheseLimits}
            busy={change.busy}
            disabled={!changed}
            onPress={() => void form.handleSubmit(change.run)()}
            testID="keep-limits"
          />
          {standard ? null : <Button label={SAY.useTheSafeLimits} onPress={() => change.run(DEFAULT_ARCHIVE_LIMITS)} />}
        </View>
      </DrawerRow>
    </Drawer>
  );
}

function Formats({ chosen }: { chosen: Settings["twinFormat"] }) {
  const choose = useAction(useCallback((twinFormat: "otf" | "ttf") => save({ twinFormat }), []));
  return (
    <Drawer label={SAY.stylesInTwoFormats}>
      <DrawerRow first>
        <Strong>{SAY.whichFileIsTakenWhen}</Strong>
        <Small className="mb-2">{SAY.eitherWorksOnAComputer}</Small>
        <View className="flex-row gap-2" role="group" aria-label={SAY.formatToTake}>
          <Button label={SAY.otf} pressed={chosen === "otf"} busy={choose.busy} onPress={() => choose.run("otf")} />
          <Button label={SAY.ttf} pressed={chosen === "ttf"} busy={choose.busy} onPress={() => choose.run("ttf")} />
        </View>
      </DrawerRow>
    </Drawer>
  );
}

function ThisComputer({ wanted }: { wanted: boolean }) {
  const choose = useAction(useCallback((thisComputer: boolean) => save({ thisComputer }), []));
  return (
    <Drawer label={SAY.thisComputer} testID="this-computer">
      {choose.problem ? <ApiProblemNote problem={choose.problem} /> : null}
      <Tick
        first
        label={SAY.useThisComputerAsA}
        note={SAY.buvanoThenListsTheFonts}
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
    <Drawer label={SAY.evidenceThatIsKept} testID="keep-evidence">
      {change.problem ? <ApiProblemNote problem={change.problem} /> : null}
      <Tick
        first
        label={SAY.keepFilesThatWereGiven}
        note={SAY.theyCanBeOpenedAgain}
        on={keep}
        onChange={(keepEvidence) => change.run({ keepEvidence })}
        testID="keep-evidence-files"
      />
      {keep ? (
        <DrawerRow>
          <NumberField form={form} name="evidenceMib" label={SAY.miBKeptAtMost} hint={SAY.theOldestFilesGoFirst} testID="evidence-mib" />
          <View className="items-start">
            <Button
              strong={form.formState.isDirty}
              label={SAY.keepThisLimit}
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
    <Drawer label={SAY.practiceDevices} testID="practice-setting">
      {choose.problem ? <ApiProblemNote problem={choose.problem} /> : null}
      <Tick
        first
        label={SAY.showPracticeDevices}
        note={SAY.simulatedDevicesAndProgramsTo}
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
    <Screen title={SAY.settings} back="/" testID="settings">
      <Loaded answer={settings} what={SAY.fetchingYourSettings}>
        {(value) => (
          <>
            <Watched folder={value.watchedFolder} />
            <BackupDrawer />
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
