// Today: where parcels arrive, and what to do next.
import { Link, useRouter } from "expo-router";
import { useCallback, useState } from "react";
import { FileSearch, PackageOpen, SlidersHorizontal, X } from "../parts/icons.ts";
import { Pressable, View } from "react-native";
import { PlanView, type PlanRequest } from "../../contract/plan.ts";
import type { Today } from "../../contract/today.ts";
import { count, sizeWords } from "../../core/words/words.ts";
import { send } from "../data/api.ts";
import { useParcels, useToday, useUndoableEvents, useWatchReport } from "../data/hooks.ts";
import { callOff, dropFiles, sendAgain, useOutgoing, type Outgoing } from "../data/uploads.ts";
import { useAction } from "../data/useAction.ts";
import { Button } from "../parts/Button.tsx";
import { Drawer, DrawerRow } from "../parts/Drawer.tsx";
import { LinkRow } from "../parts/LinkRow.tsx";
import { STATION_WORDS } from "../parts/Marks.tsx";
import { Screen } from "../parts/Screen.tsx";
import { ApiProblemNote, Empty, Loaded, ProblemNote, ProgressBar } from "../parts/Status.tsx";
import { Body, Small, Strong } from "../parts/Text.tsx";
import { usePalette } from "../theme/theme.ts";
import { DropArea } from "../web/DropArea.tsx";
import { ParcelRow } from "./ParcelRow.tsx";
import { PastEvent } from "./PastEvent.tsx";

const STUCK_WORDS: Record<string, string> = {
  sound: "Look at what is damaged",
  cleared: "Say what its licence allows",
  placed: "Place on a device",
  seen: "Look whether programs show it",
};

function Sending({ one }: { one: Outgoing }) {
  const palette = usePalette();
  if (one.problem) {
    return (
      <ProblemNote message={`${one.name}: ${one.problem.message}`} next={one.problem.next}>
        <View className="mt-2 flex-row gap-2">
          <Button label="Send again" onPress={() => void sendAgain(one.id)} testID="send-again" />
          <Button label="Dismiss" onPress={() => callOff(one.id)} />
        </View>
      </ProblemNote>
    );
  }
  const words =
    one.state === "waiting" ? "Waiting" : one.sent < one.total ? `${sizeWords(one.sent)} of ${sizeWords(one.total)}` : "Arriving…";
  return (
    <View className="mb-2 flex-row items-center gap-3 border border-edge bg-drawer pl-3" testID="sending">
      <View className="min-w-0 flex-1 py-2">
        <View className="mb-2 flex-row justify-between gap-3">
          <Strong lines={1} className="min-w-0 flex-1">
            {one.name}
          </Strong>
          <Small>{words}</Small>
        </View>
        <ProgressBar part={one.total > 0 ? one.sent / one.total : undefined} label={`Sending ${one.name}`} />
      </View>
      <Pressable
        role="button"
        aria-label={`Call off ${one.name}`}
        onPress={() => callOff(one.id)}
        className="h-14 w-12 items-center justify-center active:opacity-60"
      >
        <X size={18} color={palette.ink} aria-hidden />
      </Pressable>
    </View>
  );
}

function Group({ group }: { group: Today["groups"][number] }) {
  return (
    <Drawer label={`${STATION_WORDS[group.station]}: ${STUCK_WORDS[group.station] ?? ""}`} note={count(group.total, "family", "families")}>
      {group.families.map((family, i) => (
        <Link key={family.id} href={`/family/${family.id}`} className={`w-full ${i === 0 ? "" : "border-t border-edge"}`}>
          <View className="min-h-[52px] w-full justify-center px-3 py-2">
            <Strong lines={1}>{family.name}</Strong>
            <Small>{family.words}</Small>
          </View>
        </Link>
      ))}
      {group.total > group.families.length ? (
        <Link href={`/families?at=${group.station}`} className="w-full border-t border-edge">
          <View className="min-h-[48px] w-full justify-center px-3">
            <Body className="underline">All {group.total}</Body>
          </View>
        </Link>
      ) : null}
    </Drawer>
  );
}

/** Licences that end soon or have ended: the plan that switches their fonts off, and renewal. */
function Terms({ terms }: { terms: Today["terms"] }) {
  const router = useRouter();
  const draw = useAction(
    useCallback(
      async (familyId: number, deviceId: number) => {
        const request: PlanRequest = { deviceId, action: "switch-off", familyIds: [familyId] };
        router.push(`/plan/${(await send("POST", "/plans", PlanView, request)).id}`);
      },
      [router],
    ),
  );
  if (terms.length === 0) return null;
  return (
    <Drawer label="Cleared: Licences that end" note={count(terms.length, "family", "families")} testID="terms">
      {draw.problem ? <ApiProblemNote problem={draw.problem} /> : null}
      {terms.map((term, i) => (
        <DrawerRow key={term.familyId} first={i === 0} testID="term">
          <Strong lines={1}>{term.name}</Strong>
          <Small className={term.over ? "text-warning" : ""}>
            {term.over ? "Lapsed. " : ""}
            {term.words}.
          </Small>
          <View className="mt-2 flex-row flex-wrap gap-2">
            {term.over
              ? term.devices.map((device) => (
                  <Button
                    key={device.id}
                    label={`Turn off on ${device.name}`}
                    busy={draw.busy}
                    onPress={() => draw.run(term.familyId, device.id)}
                    testID="switch-off"
                  />
                ))
              : null}
            <Button label="Renew" hint={term.name} onPress={() => router.push(`/licence?family=${term.familyId}`)} testID="renew" />
          </View>
        </DrawerRow>
      ))}
    </Drawer>
  );
}

function Groups() {
  const today = useToday();
  return (
    <Loaded answer={today} what="Looking at your families">
      {(value) => (
        <>
          <Renewing renewing={value.renewing} />
          <Terms terms={value.terms} />
          {value.groups.map((group) => (
            <Group key={group.station} group={group} />
          ))}
        </>
      )}
    </Loaded>
  );
}

/** Whether a parcel still waits for someone. */
/** So many rows are shown before somebody asks for more. */
const SHOWN_AT_FIRST = 20;
const MORE = 100;

function Parcels({ label, waits }: { label: string; waits: boolean }) {
  const [shown, setShown] = useState(SHOWN_AT_FIRST);
  const page = useParcels(waits, shown).data;
  if (!page || page.total === 0) return null;
  const more = page.total - page.parcels.length;
  return (
    <Drawer label={label} note={count(page.total, "parcel")}>
      {page.parcels.map((parcel, i) => (
        <ParcelRow key={parcel.id} parcel={parcel} first={i === 0} />
      ))}
      {more > 0 ? (
        <Pressable
          role="button"
          onPress={() => setShown(shown + MORE)}
          className="min-h-[48px] justify-center border-t border-edge px-3 active:opacity-60"
          testID="more-parcels"
        >
          <Body className="underline">{count(more, "more parcel")}</Body>
        </Pressable>
      ) : null}
    </Drawer>
  );
}

/** What goes on behind the lists, while it does. */
function Renewing({ renewing }: { renewing: Today["renewing"] }) {
  const { unread, anew, fonts, rows } = renewing;
  const words = [
    unread > 0 && `${count(unread, "paper")} still being read.`,
    anew + fonts > 0 && "Buvano learnt to read more: papers and fonts are read anew, and what was known of them is shown until then.",
    rows > MANY_ROWS && `Lists are being brought up to date: ${count(rows, "row")} to go.`,
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
  const [all, setAll] = useState(false);
  if (events.length === 0) return null;
  const shown = all ? events : events.slice(0, 2);
  return (
    <Drawer label="Can be taken back" note={count(events.length, "change")} testID="undoable">
      {shown.map((event, i) => (
        <PastEvent key={event.id} event={event} first={i === 0} />
      ))}
      {events.length > shown.length ? (
        <Pressable
          role="button"
          onPress={() => setAll(true)}
          className="min-h-[48px] justify-center border-t border-edge px-3 active:opacity-60"
        >
          <Body className="underline">{events.length - shown.length} more</Body>
        </Pressable>
      ) : null}
    </Drawer>
  );
}

function SettingsLink() {
  const palette = usePalette();
  return (
    <Link href="/settings" aria-label="Settings" testID="settings-link">
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
  const router = useRouter();
  const take = async (files: File[]) => {
    if (files.length === 0) return;
    const parcel = await dropFiles(files);
    if (parcel && files.length === 1) router.push(`/parcel/${parcel.id}`);
  };
  return (
    <DropArea label="Choose archives or fonts" onFiles={(files) => void take(files)}>
      {({ over, pick }) => (
        <Screen title="Today" aside={<SettingsLink />} testID="today">
          <View className={`mb-5 items-center gap-3 border-2 border-dashed p-5 ${over ? "border-persimmon bg-drawer" : "border-edge"}`}>
            <Body className="text-center">{over ? "Let go, and it is taken in." : "Drop a downloaded archive or font files here."}</Body>
            <Button strong icon={PackageOpen} label="Bring in a download" onPress={pick} testID="bring" />
          </View>
          <View className="mb-5 border border-edge bg-drawer">
            <LinkRow
              first
              icon={FileSearch}
              label="What does a document need?"
              note="Its fonts, and where each one is"
              href="/needs"
              testID="needs-link"
            />
          </View>
          <WatchTrouble />
          {outgoing.slice(0, SHOWN_AT_FIRST).map((one) => (
            <Sending key={one.id} one={one} />
          ))}
          {outgoing.length > SHOWN_AT_FIRST ? (
            <Small className="mb-3">And {outgoing.length - SHOWN_AT_FIRST} more wait to be sent.</Small>
          ) : null}
          <Loaded answer={today} what="Looking for parcels">
            {({ parcels: arrived }) =>
              arrived === 0 ? (
                <Empty title="Nothing has arrived yet.">
                  <Body>
                    A download is unpacked for you: fonts, licence texts, previews and leftovers are told apart, and each font is checked
                    before it goes anywhere.
                  </Body>
                </Empty>
              ) : (
                <>
                  <Parcels label="In: Shelve what arrived" waits />
                  <Groups />
                  <Undoable />
                  <Parcels label="Parcels already shelved" waits={false} />
                </>
              )
            }
          </Loaded>
        </Screen>
      )}
    </DropArea>
  );
}
