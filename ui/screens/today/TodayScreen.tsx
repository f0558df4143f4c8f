// Today: where parcels arrive, and what to do next.
import { Link, useRouter } from "expo-router";
import { Pressable, View } from "react-native";
import type { Today } from "../../../contract/today.ts";
import { count } from "../../../core/words/words.ts";
import { useShelvable, useToday, useUndoableEvents, useWatchReport } from "../../data/hooks.ts";
import { dropFiles, useOutgoing } from "../../data/uploads.ts";
import { useOpen } from "../../data/page.ts";
import { Button } from "../../parts/Button.tsx";
import { Drawer } from "../../parts/Drawer.tsx";
import { Download, FileSearch, PackageOpen, SlidersHorizontal } from "../../parts/icons.ts";
import { LinkRow } from "../../parts/LinkRow.tsx";
import { Screen } from "../../parts/Screen.tsx";
import { Empty, Loaded, ProblemNote } from "../../parts/Status.tsx";
import { Body, Small } from "../../parts/Text.tsx";
import { usePalette } from "../../theme/theme.ts";
import { useTouch } from "../../web/touch.ts";
import { DropArea } from "../../web/DropArea.tsx";
import { PastEvent } from "../../parts/PastEvent.tsx";
import { Arrived, ParcelActs, Shelved, SHOWN_AT_FIRST } from "./Parcels.tsx";
import { Missing } from "./Missing.tsx";
import { Sending } from "./Sending.tsx";
import { Start } from "./Start.tsx";
import { Tasks } from "./Tasks.tsx";
import { Terms } from "./Terms.tsx";
import { SAY } from "../../sentences/today/today.ts";

/** What goes on behind the lists, while it does. */
function Renewing({ renewing }: { renewing: Today["renewing"] }) {
  const { unread, anew, fonts, rows } = renewing;
  const words = [
    unread > 0 && SAY.unreadStillBeingRead(unread),
    anew + fonts > 0 && SAY.buvanoCanReadMoreNow,
    rows > MANY_ROWS && SAY.listsAreBeingUpdatedRows(rows),
  ].filter((one) => one !== false);
  if (words.length === 0) return null;
  return (
    <View className="mb-4 border-l-4 border-edge bg-drawer p-3" role="status" testID="renewing">
      {words.map((one) => (
        <Small key={one}>{one}</Small>
      ))}
    </View>
  );
}
/** Fewer are renewed before anybody has read that they are. */
const MANY_ROWS = 200;

/** What was done lately and can be taken back. */
function Undoable() {
  const events = useUndoableEvents().data ?? [];
  const [all, setAll] = useOpen("all taken back");
  if (events.length === 0) return null;
  const shown = all ? events : events.slice(0, 2);
  return (
    <Drawer label={SAY.canBeTakenBack} note={count(events.length, "change")} testID="undoable">
      {shown.map((event, i) => (
        <PastEvent key={event.id} event={event} first={i === 0} />
      ))}
      {events.length > shown.length ? (
        <Pressable
          role="button"
          onPress={() => setAll(true)}
          className="min-h-[48px] justify-center border-t border-edge px-3 active:opacity-60"
        >
          <Body className="underline">{SAY.more(events.length, shown.length)}</Body>
        </Pressable>
      ) : null}
    </Drawer>
  );
}

function SettingsLink() {
  const palette = usePalette();
  return (
    <Link href="/settings" aria-label={SAY.settings} testID="settings-link">
      <View className="h-12 w-12 items-center justify-center">
        <SlidersHorizontal size={22} color={palette.ink} aria-hidden />
      </View>
    </Link>
  );
}

/** The watched folder speaks up here when it cannot be read. */
function WatchTrouble() {
  const problem = useWatchReport().data?.problem;
  return problem ? <ProblemNote message={problem.message} next={problem.next} testID="watch-problem" /> : null;
}

export function TodayScreen() {
  const today = useToday();
  const outgoing = useOutgoing();
  const touch = useTouch();
  // What has arrived comes first.
  const waiting = (useShelvable().data?.ids.length ?? 0) > 0;
  const router = useRouter();
  const take = async (files: File[]) => {
    if (files.length === 0) return;
    const parcel = await dropFiles(files);
    if (parcel && files.length === 1) router.push(`/parcel/${parcel.id}`);
  };
  return (
    <DropArea label={SAY.chooseArchivesOrFonts} onFiles={(files) => void take(files)}>
      {({ over, pick }) => (
        <Screen title={SAY.today} aside={<SettingsLink />} foot={<ParcelActs />} testID="today">
          <View className={`mb-5 items-center gap-3 border-2 border-dashed p-5 ${over ? "border-persimmon bg-drawer" : "border-edge"}`}>
            <Body className="text-center">
              {over ? SAY.letGoAndItIs : touch ? SAY.chooseADownloadedArchiveOr : SAY.dropADownloadedArchiveOr}
            </Body>
            <Button strong={!waiting} icon={PackageOpen} label={SAY.bringInADownload} onPress={pick} testID="bring" />
          </View>
          <View className="mb-5 border border-edge bg-drawer">
            <LinkRow
              first
              icon={FileSearch}
              label={SAY.whatDoesADocumentNeed}
              note={SAY.itsFontsAndWhereEach}
              href="/needs"
              testID="needs-link"
            />
          </View>
          {today.data ? <Start today={today.data} /> : null}
          <WatchTrouble />
          {outgoing.slice(0, SHOWN_AT_FIRST).map((one) => (
            <Sending key={one.id} one={one} />
          ))}
          {outgoing.length > SHOWN_AT_FIRST ? (
            <Small className="mb-3">{SAY.andMoreAreWaitingTo(outgoing.length, SHOWN_AT_FIRST)}</Small>
          ) : null}
          <Loaded answer={today} what={SAY.lookingForParcels}>
            {({ parcels: arrived, families, groups, tasks, terms, renewing, backup, missing }) =>
              arrived + families === 0 ? (
                <Empty title={SAY.nothingHasArrivedYet}>
                  <Body>{SAY.aDownloadIsUnpackedFor}</Body>
                </Empty>
              ) : (
                <>
                  <Renewing renewing={renewing} />
                  <Missing missing={missing} />
                  <Arrived />
                  <Terms terms={terms} />
                  <Tasks groups={groups} tasks={tasks} />
                  {backup ? (
                    <Drawer>
                      <LinkRow first icon={Download} label={SAY.makeABackup} note={backup} href="/settings" testID="backup-link" />
                    </Drawer>
                  ) : null}
                  <Undoable />
                  <Shelved />
                </>
              )
            }
          </Loaded>
        </Screen>
      )}
    </DropArea>
  );
}
