// One device: what is the matter with it, its programs, its fonts as they were last seen, and what can be done for it.
import { Link, useRouter } from "expo-router";
import { memo, useCallback, useEffect, useMemo, useState } from "react";
import { View } from "react-native";
import { useSWRConfig } from "swr";
import { Adopted, DeviceDetail, DeviceFonts, Rescan, type DeviceFont } from "../../../contract/devices.ts";
import { count } from "../../../core/words/words.ts";
import { Done, get, send } from "../../data/api.ts";
import { useChoosing } from "../../data/choosing.ts";
import { fontKey, FOLDER_WORDS, KIND_WORDS, READS_WORDS, EXTERNAL_CHANGE_WORDS } from "../../data/devices.ts";
import { FONTS_PAGE, searchOf, useDevice, useDeviceFonts } from "../../data/hooks.ts";
import { useRemember } from "../../data/lastUsed.ts";
import { useAction } from "../../data/useAction.ts";
import { useOpen } from "../../data/page.ts";

import { useSettled } from "../../data/settled.ts";
import { Button } from "../../parts/Button.tsx";
import { ChooseBox } from "../../parts/ChooseBar.tsx";
import { Drawer, DrawerRow, DrawerTab } from "../../parts/Drawer.tsx";
import { ListChecks, Plus, RefreshCw } from "../../parts/icons.ts";
import { ActRow, LinkRow } from "../../parts/LinkRow.tsx";
import { InRow, ListScreen } from "../../parts/Screen.tsx";
import { ApiProblemNote, Loaded, ProblemNote } from "../../parts/Status.tsx";
import { SearchField } from "../../parts/SearchField.tsx";
import { Body, Small, Strong } from "../../parts/Text.tsx";
import { useChoosingHands } from "../../web/useChoosingHands.ts";
import { DeviceActs } from "./DeviceActs.tsx";
import { PastEvent } from "../../parts/PastEvent.tsx";
import { PracticeFaults } from "../practice/PracticeFaults.tsx";
import { SAY } from "../../sentences/devices/device.ts";

function Trouble({ device }: { device: DeviceDetail }) {
  const { duplicates, lapsed, outdated, unseen } = device.trouble;
  const remarked = [
    lapsed > 0 && SAY.theLicenceOfLapsedHas(lapsed),
    unseen > 0 && SAY.unseenNotNoticedByThe(unseen),
    outdated > 0 && SAY.theLibraryHasANewer(outdated),
  ].filter((words) => words !== false);
  if (duplicates === 0 && remarked.length === 0) return null;
  return (
    <Drawer label={SAY.trouble} testID="trouble">
      {duplicates > 0 ? (
        <LinkRow
          first
          href={`/duplicates?device=${device.id}`}
          label={count(duplicates, "duplicate")}
          note={SAY.severalFilesGoByThe}
          testID="to-duplicates"
        />
      ) : null}
      {remarked.map((words, i) => (
        <DrawerRow key={words} first={duplicates === 0 && i === 0}>
          <Body>{words}</Body>
        </DrawerRow>
      ))}
    </Drawer>
  );
}

function ExternalChanges({ device }: { device: DeviceDetail }) {
  const { mutate } = useSWRConfig();
  const refresh = useCallback(() => mutate(`/devices/${device.id}`), [mutate, device.id]);
  const adopt = useAction(
    useCallback(async () => {
      await send("POST", `/devices/${device.id}/adopt`, Adopted, {});
      await refresh();
    }, [device.id, refresh]),
  );
  const dismiss = useAction(
    useCallback(async () => {
      await send("POST", `/devices/${device.id}/external-changes-seen`, Done);
      await refresh();
    }, [device.id, refresh]),
  );
  const problem = adopt.problem ?? dismiss.problem;
  const adoptable = device.externalChanges.filter((one) => one.adoptable).length;
  if (device.externalChanges.length === 0) return null;
  return (
    <Drawer label={SAY.changedOutsideBuvano} note={count(device.externalChanges.length, "change")} testID="external-changes">
      {problem ? <ApiProblemNote problem={problem} /> : null}
      {device.externalChanges.slice(0, 30).map((one, i) => (
        <DrawerRow key={one.id} first={i === 0} testID="external-change">
          <Strong lines={1}>
            {one.name} {EXTERNAL_CHANGE_WORDS[one.how]}
          </Strong>
          <Small>{SAY.fileNameFolderWordsNoticedAt(one.fileName, FOLDER_WORDS[one.folder], one.at)}</Small>
        </DrawerRow>
      ))}
      {device.externalChanges.length > 30 ? (
        <DrawerRow>
          <Small>{SAY.andMore(device.externalChanges.length)}</Small>
        </DrawerRow>
      ) : null}
      <DrawerRow className="flex-row flex-wrap gap-2">
        {adoptable > 0 ? (
          <Button label={SAY.takeAdoptableIntoTheLibrary(adoptable)} busy={adopt.busy} onPress={adopt.run} testID="adopt" />
        ) : null}
        <Button label={SAY.iHaveSeenThis} busy={dismiss.busy} onPress={dismiss.run} testID="external-changes-seen" />
      </DrawerRow>
    </Drawer>
  );
}

/** `picked` says whether it is chosen; left out while nobody chooses. */
function FontRow({ font, picked }: { font: DeviceFont; picked: boolean | undefined }) {
  const body = (
    <View className="min-h-[56px] w-full flex-row items-center gap-3 px-3 py-3">
      {picked === undefined ? null : <ChooseBox on={picked} />}
      <View className="min-w-0 flex-1">
        <Strong lines={1}>{font.style}</Strong>
        <Small>{SAY.aPlacedFile(font.fileName, FOLDER_WORDS[font.folder], font.on, font.familyId !== null)}</Small>
        {font.remarks.map((remark) => (
          <Small key={remark} className="text-warning">
            {remark}
          </Small>
        ))}
      </View>
    </View>
  );
  return (
    <View dataSet={{ choose: fontKey(font) }} className="border border-t-0 border-edge bg-drawer" testID="placed-font">
      {font.first ? (
        <View role="heading" aria-level={3} className="px-3 pt-3">
          <Strong lines={1} className="text-lg">
            {font.family}
          </Strong>
        </View>
      ) : null}
      {picked !== undefined ? (
        <View role="checkbox" aria-checked={picked} tabIndex={0} aria-label={`${font.family}, ${font.style}, ${font.fileName}`}>
          {body}
        </View>
      ) : font.familyId === null ? (
        body
      ) : (
        <Link href={`/family/${font.familyId}`} className="w-full">
          {body}
        </Link>
      )}
    </View>
  );
}

/** One place in the list; those after the first part are fetched when they come near the window. */
interface FontPlace {
  deviceId: number;
  /** What is searched for. */
  q: string;
  index: number;
  /** Keys of fonts that are chosen; undefined while nobody chooses. */
  chosen: ReadonlySet<string> | undefined;
}
const FontAt = memo(function FontAt({ first, ...place }: FontPlace & { first: DeviceFont | undefined }) {
  return first ? <FontRow font={first} picked={place.chosen?.has(fontKey(first))} /> : <FetchedFont {...place} />;
});
function FetchedFont({ deviceId, q, index, chosen }: FontPlace) {
  const font = useDeviceFonts(deviceId, q, index).data?.fonts[index % FONTS_PAGE];
  return font ? (
    <FontRow font={font} picked={chosen?.has(fontKey(font))} />
  ) : (
    <View className="h-[72px] border border-t-0 border-edge bg-drawer" aria-hidden />
  );
}

/** Keys of all fonts placed on a device that are searched for, in the order of the list. */
async function keysOf(id: number, q: string): Promise<string[]> {
  const keys: string[] = [];
  for (;;) {
    const page = await get(`/devices/${id}/fonts?${searchOf({ q, from: keys.length, limit: MOST_AT_ONCE })}`, DeviceFonts);
    keys.push(...page.fonts.map(fontKey));
    if (page.fonts.length === 0 || keys.length >= page.total) return [...new Set(keys)];
  }
}
const MOST_AT_ONCE = 500;
/** Shorter lists are seen whole. */
const SEARCHED_FROM = 12;

const SHOWN_OF_HISTORY = 2;
function Lately({ events }: { events: DeviceDetail["history"] }) {
  const [all, setAll] = useOpen("all history");
  const shown = all ? events : events.slice(0, SHOWN_OF_HISTORY);
  return (
    <Drawer label={SAY.doneHereLately} testID="device-history">
      {shown.map((event, i) => (
        <PastEvent key={event.id} event={event} first={i === 0} />
      ))}
      {events.length > shown.length ? (
        <ActRow label={SAY.more(events.length, shown.length)} onPress={() => setAll(true)} testID="more-history" />
      ) : null}
    </Drawer>
  );
}

export function DeviceScreen({ id }: { id: number }) {
  const answer = useDevice(id);
  useRemember("device", id, answer);
  const router = useRouter();
  const device = answer.data;
  const [looked, setLooked] = useState<Rescan>();
  const { mutate } = answer;
  const look = useAction(
    useCallback(async () => {
      setLooked(await send("POST", `/devices/${id}/rescan`, Rescan));
      await mutate();
    }, [id, mutate]),
  );
  const [q, setQ] = useState("");
  const wanted = useSettled(q.trim());
  const found = useDeviceFonts(id, wanted === "" ? null : wanted, 0).data;
  const all = device?.total ?? 0;
  const total = wanted === "" ? all : (found?.total ?? 0);
  const choosing = useChoosing("fonts");
  const { put, end } = choosing;
  useEffect(() => end, [id, end]);
  const order = useCallback(() => keysOf(id, wanted), [id, wanted]);
  const chooseAll = useCallback(() => void keysOf(id, wanted).then(put), [id, wanted, put]);
  const frame = useChoosingHands({ choosing, order, all: chooseAll });
  const places = useMemo(() => Array.from({ length: total }, (_, index) => index), [total]);
  return (
    <ListScreen
      title={device?.name ?? SAY.device}
      note={device?.observedAt ? SAY.lookedAtObservedAt(device.observedAt) : undefined}
      back="/devices"
      testID="device"
      action={
        device && !choosing.chosen ? (
          <InRow>
            <Button icon={RefreshCw} label={SAY.lookAgain} busy={look.busy} onPress={look.run} className="flex-1" testID="rescan" />
            <Button label={SAY.makeItLikeAnother} onPress={() => router.push(`/like?device=${id}`)} className="flex-1" testID="to-like" />
          </InRow>
        ) : undefined
      }
      rows={places}
      keyOf={String}
      frame={frame}
      drawn={choosing.chosen}
      foot={device ? <DeviceActs device={device} choosing={choosing} onAll={chooseAll} /> : null}
      render={(index) => (
        <FontAt
          deviceId={id}
          q={wanted}
          index={index}
          first={wanted === "" ? device?.fonts[index] : undefined}
          chosen={choosing.chosen?.keys}
        />
      )}
      header={
        <Loaded answer={answer} what={SAY.lookingAtTheDevice}>
          {(value) => (
            <>
              {look.problem ? <ApiProblemNote problem={look.problem} /> : null}
              {value.problem && !look.problem ? <ProblemNote message={value.problem.message} next={value.problem.next} /> : null}
              {looked && !look.problem ? (
                <View className="mb-4 border-l-4 border-verdigris bg-drawer p-3" role="status" testID="looked">
                  <Body>{SAY.beforeBeforeNowAfterFound(looked.before, looked.after, looked.found.length)}</Body>
                </View>
              ) : null}
              <Trouble device={value} />
              <ExternalChanges device={value} />
              {value.waiting.length > 0 ? (
                <Drawer label={SAY.waitingToBeDoneThere} note={count(value.waiting.length, "style")} testID="waiting-there">
                  <DrawerRow first>
                    <Body lines={4}>{value.waiting.join(", ")}</Body>
                  </DrawerRow>
                </Drawer>
              ) : null}
              {value.kind === "tablet" && value.sort === "practice" ? (
                <Drawer label={SAY.theTabletItself}>
                  <LinkRow
                    first
                    href={`/tablet-room/${id}`}
                    label={SAY.openItsSettings}
                    note={SAY.profilesThatWaitAndThose}
                    testID="to-tablet-room"
                  />
                </Drawer>
              ) : null}
              <Drawer label={SAY.programs}>
                {value.programs.map((program, i) => (
                  <LinkRow
                    key={program.id}
                    first={i === 0}
                    href={program.practice ? `/practice/${program.id}` : `/program?id=${program.id}`}
                    label={program.name}
                    note={SAY.aProgram(program.practice, KIND_WORDS[program.kind], READS_WORDS[program.traits.readsWhen])}
                    testID={`open-${program.name}`}
                  />
                ))}
                <LinkRow
                  first={value.programs.length === 0}
                  href={`/program?device=${id}`}
                  icon={Plus}
                  label={SAY.nameAProgram}
                  note={SAY.sayHowItTreatsFonts}
                  testID="name-program"
                />
              </Drawer>
              {value.builtInFamilies.length > 0 ? (
                <Drawer label={SAY.cameWithTheDevice} note={count(value.builtInFonts, "font")}>
                  <DrawerRow first>
                    <Body lines={4}>{value.builtInFamilies.join(", ")}</Body>
                  </DrawerRow>
                </Drawer>
              ) : null}
              {value.practiceState ? <PracticeFaults device={value} state={value.practiceState} /> : null}
              {value.history.length > 0 ? <Lately events={value.history} /> : null}
              {total > 1 && !choosing.chosen ? (
                <View className="mb-2 items-start">
                  <Button
                    icon={ListChecks}
                    label={SAY.choose}
                    hint={SAY.severalFonts}
                    onPress={() => choosing.begin()}
                    byKey="choose"
                    testID="choose-fonts"
                  />
                </View>
              ) : null}
              {all > SEARCHED_FROM ? (
                <SearchField label={SAY.findAmongThem} value={q} onChange={setQ} placeholder={SAY.familyStyleOrFile} testID="find-font" />
              ) : null}
              <DrawerTab
                label={SAY.placedFonts}
                note={wanted === "" ? SAY.fontsSomeOff(all, device?.trouble.off ?? 0) : SAY.foundOfAll(found?.total, count(all, "font"))}
              />
              <View className="border-t border-edge" />
              {total === 0 ? (
                <DrawerRow first className="border border-t-0 border-edge bg-drawer">
                  <Body>{wanted === "" ? SAY.noneYetOpenAFamily : found ? SAY.noFontHereIsCalled(wanted) : SAY.looking}</Body>
                </DrawerRow>
              ) : null}
            </>
          )}
        </Loaded>
      }
    />
  );
}
