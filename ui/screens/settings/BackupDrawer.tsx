// Backups: made by one press while everything goes on, a reminder, and what is kept that could be let go.
import { useCallback } from "react";
import { View } from "react-native";
import { BackupRequest, BackupState } from "../../../contract/backup.ts";
import { Settings } from "../../../contract/settings.ts";
import { dayWords } from "../../../core/words/dates.ts";
import { sizeWords } from "../../../core/words/words.ts";
import { send } from "../../data/api.ts";
import { useBackup } from "../../data/hooks.ts";
import { offerUndo } from "../../data/undo.ts";
import { useAction } from "../../data/useAction.ts";
import { Button } from "../../parts/Button.tsx";
import { Choice } from "../../parts/Choice.tsx";
import { Drawer, DrawerRow } from "../../parts/Drawer.tsx";
import { TextField, useKeptForm } from "../../parts/form.tsx";
import { ApiProblemNote, Loaded, ProblemNote } from "../../parts/Status.tsx";
import { Body, Small } from "../../parts/Text.tsx";
import { SAY } from "../../sentences/settings/backup.ts";

const REMINDERS = { "7": SAY.afterAWeek, "30": SAY.afterAMonth, "90": SAY.afterThreeMonths, "0": SAY.never } as const;

const letGo = (ids: readonly number[], cleared: boolean) => send("POST", "/backup/originals", BackupState, { ids, cleared });

function Backup({ state }: { state: BackupState }) {
  const { folder, last, remindDays, going, due, problem, originals } = state;
  const form = useKeptForm(BackupRequest, { folder: folder ?? "" });
  const make = useAction(
    useCallback(
      async (request: BackupRequest) => {
        await send("POST", "/backup", BackupState, request);
        form.reset(request);
      },
      [form],
    ),
  );
  const remind = useAction(useCallback((days: string) => send("POST", "/settings", Settings, { backupRemindDays: Number(days) }), []));
  const free = useAction(
    useCallback(async () => {
      const { ids, bytes } = originals;
      await letGo(ids, true);
      offerUndo(SAY.originalsAreLetGo(sizeWords(bytes)), () => letGo(ids, false));
    }, [originals]),
  );
  const failed = make.problem ?? remind.problem ?? free.problem;
  const begin = () => void form.handleSubmit(make.run)();
  return (
    <Drawer label={SAY.backup} testID="backup">
      <DrawerRow first>
        <Body className="mb-3">{SAY.oneFileWithAllOfIt}</Body>
        {failed ? <ApiProblemNote problem={failed} /> : problem ? <ProblemNote message={problem.message} next={problem.next} /> : null}
        <TextField
          form={form}
          name="folder"
          label={SAY.folderForBackups}
          hint={SAY.bestOnAnotherDisk}
          onDone={begin}
          testID="backup-folder"
        />
        <View className="items-start">
          <Button strong={due} label={SAY.backUpNow} busy={make.busy || going} onPress={begin} testID="back-up" />
        </View>
        <Small className="mt-2" testID="backup-last">
          {last
            ? SAY.lastBackup(dayWords(last.at.slice(0, 10)), last.name, sizeWords(last.bytes), last.files, last.added)
            : SAY.noBackupYet}
        </Small>
        <Small className="mt-1">{SAY.itComesBackBy}</Small>
      </DrawerRow>
      <DrawerRow className="items-start gap-2">
        <Body>{SAY.remindMe}</Body>
        <Choice
          label={SAY.remindMe}
          words={REMINDERS}
          value={String(remindDays) as keyof typeof REMINDERS}
          onChange={(days) => days !== undefined && remind.run(days)}
          testID="backup-remind"
        />
      </DrawerRow>
      {originals.ids.length > 0 ? (
        <DrawerRow>
          <Body>{SAY.downloadsAsTheyArrived(originals.ids.length, sizeWords(originals.bytes))}</Body>
          <View className="mt-2 items-start">
            <Button label={SAY.letThemGo} busy={free.busy} onPress={free.run} testID="let-originals-go" />
          </View>
        </DrawerRow>
      ) : null}
    </Drawer>
  );
}

export function BackupDrawer() {
  const answer = useBackup();
  return (
    <Loaded answer={answer} what={SAY.lookingForTheLastBackup}>
      {(state) => <Backup state={state} />}
    </Loaded>
  );
}
