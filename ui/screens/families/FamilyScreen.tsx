// One family: its styles, how each program will name it, where it is and where it was seen.
import { Link, useRouter } from "expo-router";
import { ListChecks, MonitorUp, Pin } from "../../parts/icons.ts";
import { useCallback, useEffect, useState } from "react";
import { Pressable, View } from "react-native";
import type { FamilyDetail, StyleDetail } from "../../../contract/families.ts";
import { count } from "../../../core/words/words.ts";
import { familyKey as keyOf } from "../../../core/family/group.ts";
import { Done, send } from "../../data/api.ts";
import { useChoosing, type Choosing } from "../../data/choosing.ts";
import { FOLDER_WORDS } from "../../data/devices.ts";
import { useRemember } from "../../data/lastUsed.ts";
import { useFamily } from "../../data/hooks.ts";
import { offerUndo } from "../../data/undo.ts";
import { useAction } from "../../data/useAction.ts";
import { useSettled } from "../../data/settled.ts";
import { useSize, useWords } from "../../data/words.ts";
import { Button } from "../../parts/Button.tsx";
import { ChooseBox } from "../../parts/ChooseBar.tsx";
import { useNewSheet } from "../bench/newSheet.ts";
import { ClearanceDrawer } from "../clearance/ClearanceDrawer.tsx";
import { AlikeDrawer } from "../matching/AlikeDrawer.tsx";
import { PapersDrawer } from "../clearance/PapersDrawer.tsx";
import { Drawer, DrawerRow } from "../../parts/Drawer.tsx";
import { FindingList, Remarks } from "../../parts/Findings.tsx";
import { ActRow, LinkRow } from "../../parts/LinkRow.tsx";
import { StateMark, Trail } from "../../parts/Marks.tsx";
import { PastEvent } from "../../parts/PastEvent.tsx";
import { Screen } from "../../parts/Screen.tsx";
import { Specimen } from "../../parts/Specimen.tsx";
import { ApiProblemNote, Loaded } from "../../parts/Status.tsx";
import { Body, Small, Strong } from "../../parts/Text.tsx";
import { WordsBar } from "../../parts/WordsBar.tsx";
import { useWide } from "../../parts/useWide.ts";
import { usePalette } from "../../theme/theme.ts";
import { useChoosingHands } from "../../web/useChoosingHands.ts";
import { StyleActs } from "./StyleActs.tsx";
import { SAY } from "../../sentences/families/family.ts";

interface StyleProps {
  style: StyleDetail;
  family: FamilyDetail;
  words: string;
  size: number;
  first: boolean;
  /** Left out while nobody chooses. */
  picked: boolean | undefined;
}
function StyleEntry({ style, family, words, size, first, picked }: StyleProps) {
  const { rightToLeft, sample, signsOnly } = family.specimen;
  const picking =
    picked === undefined ? {} : ({ role: "checkbox", "aria-checked": picked, tabIndex: 0, "aria-label": style.style } as const);
  const remarks = <Remarks of={String(style.id)} findings={style.findings} />;
  const row = (
    <View dataSet={{ choose: String(style.id) }} {...picking}>
      <DrawerRow first={first} testID="style">
        {/* The name is read before the specimen and stands below it. */}
        <View className="flex-col-reverse">
          <View className="flex-row flex-wrap items-center justify-between gap-x-3">
            {picked === undefined ? null : <ChooseBox on={picked} />}
            <Strong className="grow">{style.style}</Strong>
            <Small>{SAY.weightWeightCodepointsBytes(style.weight, style.codepoints, style.bytes)}</Small>
          </View>
          <Specimen
            specimen={{ sha256: style.sha256, rightToLeft, sample, signsOnly }}
            words={words}
            size={size}
            covered={family.coversText}
            lines={1}
          />
        </View>
        <Small>{[style.fileName, style.version, ...style.facts].join(" · ")}</Small>
        {picked === undefined ? remarks : null}
      </DrawerRow>
    </View>
  );
  // A box to tick holds no other control: its keys are its own.
  return picked === undefined ? (
    row
  ) : (
    <View>
      {row}
      <View className="px-3">{remarks}</View>
    </View>
  );
}

function ProgramEntry({ prediction, first }: { prediction: FamilyDetail["predictions"][number]; first: boolean }) {
  const { seen, listed } = prediction;
  return (
    <Link
      href={`/cell/${prediction.styleId}/${prediction.programId}`}
      className={`w-full ${first ? "" : "border-t border-edge"}`}
      testID="program-entry"
    >
      <View className="min-h-[64px] w-full gap-1 px-3 py-3">
        <View className="flex-row items-center justify-between gap-3">
          <View className="min-w-0 flex-1">
            <Strong lines={1}>{prediction.programName}</Strong>
            <Small lines={1}>{prediction.deviceName}</Small>
          </View>
          <StateMark state={prediction.state} />
        </View>
        <Small>
          {prediction.refusal
            ? SAY.notListedBecause(prediction.refusal)
            : SAY.listedAsMenuNameOfListed(prediction.menuName, prediction.within, listed, seen)}
        </Small>
      </View>
    </Link>
  );
}

/** What is worth knowing of the family as a whole, and other names it goes by. */
function About({ family }: { family: FamilyDetail }) {
  const { id, name, notes, remarks, missing, alike, spellings } = family;
  const join = useAction(
    useCallback(
      async (other: { id: number; name: string }) => {
        await send("POST", `/families/${id}/join`, Done, { otherId: other.id });
        offerUndo(SAY.nameIsPartOfThis(other.name), () => send("POST", `/families/${id}/part`, Done, { key: keyOf(other.name) }));
      },
      [id],
    ),
  );
  const part = useAction(useCallback((key: string) => send("POST", `/families/${id}/part`, Done, { key }), [id]));
  if (notes.length + remarks.length + missing.length + alike.length + spellings.length === 0) return null;
  return (
    <Drawer label={SAY.worthKnowing} testID="about">
      {(join.problem ?? part.problem) ? <ApiProblemNote problem={(join.problem ?? part.problem)!} /> : null}
      <DrawerRow first>
        {missing ? (
          <Body className="mb-1 text-warning" testID="missing-files">
            {missing}
          </Body>
        ) : null}
        {notes.map((note) => (
          <Body key={note} className="mb-1">
            {note}
          </Body>
        ))}
        <FindingList findings={remarks} />
        {alike.map((other) => (
          <View key={other.id} className="mt-2 gap-2">
            <Body>{SAY.nameSeemsToBeThe(other.name, other.reason)}</Body>
            <Button label={SAY.addNameTo(other.name, name)} busy={join.busy} onPress={() => join.run(other)} testID="join" />
          </View>
        ))}
        {spellings.map((spelling) => (
          <View key={spelling.key} className="mt-2 gap-2">
            <Body>{SAY.nameIsPartOfThisFamily(spelling.name)}</Body>
            <Button label={SAY.separateThemAgain} busy={part.busy} onPress={() => part.run(spelling.key)} testID="part" />
          </View>
        ))}
      </DrawerRow>
    </Drawer>
  );
}

/** Whether a family is pinned: as it was tapped at once, and as it was when that fails. */
function usePin(id: number, known: boolean) {
  const [wanted, setWanted] = useState<boolean>();
  useEffect(() => setWanted(undefined), [known]);
  const pinned = wanted ?? known;
  const { run, busy, problem } = useAction(
    useCallback(
      async (to: boolean) => {
        setWanted(to);
        try {
          await send("POST", `/families/${id}/pin`, Done, { pinned: to });
        } catch (error) {
          setWanted(undefined);
          throw error;
        }
      },
      [id],
    ),
  );
  return { pinned, busy, problem, toggle: () => run(!pinned) };
}

function PinButton({ pinned, busy, toggle }: Pick<ReturnType<typeof usePin>, "pinned" | "busy" | "toggle">) {
  const palette = usePalette();
  return (
    <Pressable
      role="button"
      aria-label={pinned ? SAY.unpin : SAY.pin}
      aria-pressed={pinned}
      testID="pin"
      disabled={busy}
      onPress={toggle}
      className={`h-12 w-12 items-center justify-center border active:opacity-60 ${pinned ? "border-ink bg-tab" : "border-edge bg-drawer"}`}
    >
      <Pin size={20} color={palette.ink} aria-hidden />
    </Pressable>
  );
}

/** From a family to the bench: its words on a sheet, its characters. */
function BenchLinks({ family }: { family: FamilyDetail }) {
  const main =
    family.styleList.find(({ sha256, face }) => sha256 === family.specimen.sha256 && face === family.specimen.face) ?? family.styleList[0];
  const make = useNewSheet();
  if (!main) return null;
  return (
    <Drawer label={SAY.onTheBench}>
      <ActRow
        first
        label={SAY.tryYourWordsInIt}
        note={SAY.aNewSheetWithIts}
        onPress={() => make.run(family.name, family.styleList)}
        disabled={make.busy}
        testID="try-on-bench"
      />
      {make.problem ? <ApiProblemNote problem={make.problem} /> : null}
      <LinkRow href={`/bench/glyphs/${main.id}`} label={SAY.itsCharacters} note={SAY.everyLetterAndSignFound} testID="family-glyphs" />
    </Drawer>
  );
}

function Styles({ family, choosing }: { family: FamilyDetail; choosing: Choosing }) {
  const [words] = useWords();
  const [size] = useSize();
  const many = family.styleList.length > 1;
  return (
    <Drawer label={SAY.styles} note={count(family.styleList.length, "style")}>
      {many && !choosing.chosen ? (
        <DrawerRow first className="items-start">
          <Button
            icon={ListChecks}
            label={SAY.choose}
            hint={SAY.severalStyles}
            onPress={() => choosing.begin()}
            byKey="choose"
            testID="choose-styles"
          />
        </DrawerRow>
      ) : null}
      {family.styleList.map((style, i) => (
        <StyleEntry
          key={style.id}
          style={style}
          family={family}
          words={words}
          size={Math.min(size, 48)}
          first={i === 0 && (!many || choosing.chosen !== null)}
          picked={choosing.chosen ? choosing.has(String(style.id)) : undefined}
        />
      ))}
    </Drawer>
  );
}

/** Its tags; a tap on one leads to all families that bear it. */
function Tags({ family }: { family: FamilyDetail }) {
  if (family.tags.length === 0) return null;
  return (
    <View className="mb-4 flex-row flex-wrap gap-2" role="group" aria-label={SAY.tags} testID="family-tags">
      {family.tags.map((tag) => (
        <Link key={tag.id} href={`/families?tag=${tag.id}`}>
          <View className="min-h-[44px] flex-row items-center border border-edge bg-tab px-3">
            <Small className="text-ink">{tag.name}</Small>
          </View>
        </Link>
      ))}
    </View>
  );
}

function Detail({ family, choosing }: { family: FamilyDetail; choosing: Choosing }) {
  const wide = useWide();
  return (
    <>
      <View className="mb-5 border border-edge bg-drawer p-3">
        <Trail stations={family.trail} words />
        {family.beingRead > 0 ? (
          <Small className="mt-2" testID="being-read">
            {SAY.beingReadStillBeingReadUntil(family.beingRead)}
          </Small>
        ) : null}
      </View>
      <Tags family={family} />
      <About family={family} />
      {wide ? null : <WordsBar />}
      <Styles family={family} choosing={choosing} />
      <BenchLinks family={family} />
      <ClearanceDrawer familyId={family.id} />
      <Drawer label={SAY.inPrograms}>
        {family.predictions.map((prediction, i) => (
          <ProgramEntry key={`${prediction.styleId}/${prediction.programId}`} prediction={prediction} first={i === 0} />
        ))}
      </Drawer>
      <AlikeDrawer familyId={family.id} />
      <Drawer label={SAY.whereItIs}>
        {family.waiting.map((one, i) => (
          <LinkRow
            key={one.deviceId}
            first={i === 0}
            href={`/device/${one.deviceId}`}
            label={one.deviceName}
            note={SAY.stylesHandedOverToBe(one.styles)}
            testID="waiting-on"
          />
        ))}
        {family.placements.length === 0 && family.waiting.length > 0 ? null : family.placements.length === 0 ? (
          <DrawerRow first>
            <Body>{SAY.onNoDeviceYet}</Body>
          </DrawerRow>
        ) : (
          family.placements.map((placement, i) => (
            <Link
              key={`${placement.deviceId}${placement.folder}`}
              href={`/device/${placement.deviceId}`}
              className={`w-full ${i === 0 && family.waiting.length === 0 ? "" : "border-t border-edge"}`}
            >
              <View className="min-h-[56px] w-full justify-center px-3 py-2">
                <Strong>{placement.deviceName}</Strong>
                <Small>
                  {SAY.stylesFolderWordsOnLookedAt(
                    placement.styles,
                    FOLDER_WORDS[placement.folder],
                    placement.on,
                    placement.visible,
                    placement.observedAt,
                  )}
                </Small>
              </View>
            </Link>
          ))
        )}
      </Drawer>
      <PapersDrawer familyId={family.id} papers={family.papers} />
      <Drawer label={SAY.history}>
        {family.history.map((event, i) => (
          <PastEvent key={event.id} event={event} first={i === 0} />
        ))}
      </Drawer>
    </>
  );
}

export function FamilyScreen({ id }: { id: number }) {
  const [words] = useWords();
  const answer = useFamily(id, useSettled(words));
  useRemember("family", id, answer);
  const choosing = useChoosing("styles");
  const { put, end } = choosing;
  useEffect(() => end, [id, end]);
  const keys = (answer.data?.styleList ?? []).map((style) => String(style.id));
  const frame = useChoosingHands({ choosing, order: () => Promise.resolve(keys), all: () => put(keys) });
  const pin = usePin(id, answer.data?.pinned ?? false);
  const router = useRouter();
  const placed = (answer.data?.placements.length ?? 0) > 0;
  const toLook = answer.data?.predictions.find((one) => one.state === "reopen" || one.state === "due" || one.state === "swapped");
  const action = answer.data ? (
    placed && toLook ? (
      <>
        <Button
          strong
          label={SAY.lookForItInProgramName(toLook.programName)}
          onPress={() => router.push(`/cell/${toLook.styleId}/${toLook.programId}`)}
          testID="look"
        />
        <Button label={SAY.placeOrTakeOff} onPress={() => router.push(`/place?family=${id}`)} testID="place" />
      </>
    ) : (
      <Button
        strong={!placed}
        icon={MonitorUp}
        label={placed ? SAY.placeOrTakeOff : SAY.placeOnADevice}
        onPress={() => router.push(`/place?family=${id}`)}
        testID="place"
      />
    )
  ) : undefined;
  return (
    <Screen
      title={answer.data?.name ?? SAY.family}
      back="/families"
      aside={answer.data ? <PinButton {...pin} /> : undefined}
      action={choosing.chosen ? undefined : action}
      foot={answer.data ? <StyleActs family={answer.data} choosing={choosing} /> : null}
      testID="family"
    >
      {pin.problem ? <ApiProblemNote problem={pin.problem} /> : null}
      <Loaded answer={answer} what={SAY.openingTheFamily}>
        {(family) => (
          <View ref={frame}>
            <Detail family={family} choosing={choosing} />
          </View>
        )}
      </Loaded>
    </Screen>
  );
}
