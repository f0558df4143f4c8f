// Quick check: one page for every style of a program that is not checked yet, and one exported file that answers for all of them.
import { useRouter } from "expo-router";
import { useCallback, useState } from "react";
import { View } from "react-native";
import { QuickAnswer, type QuickCheck } from "../../../contract/quick-check.ts";
import { count } from "../../../core/words/words.ts";
import { send, upload } from "../../data/api.ts";
import { useBoard, useQuickCheck } from "../../data/hooks.ts";
import { useAction } from "../../data/useAction.ts";
import { useOpen } from "../../data/page.ts";
import { Button } from "../../parts/Button.tsx";
import { Choice } from "../../parts/Choice.tsx";
import { Drawer, DrawerRow } from "../../parts/Drawer.tsx";
import { Download, FileCheck } from "../../parts/icons.ts";
import { LinkRow } from "../../parts/LinkRow.tsx";
import { ResultMark, StateMark } from "../../parts/Marks.tsx";
import { Screen } from "../../parts/Screen.tsx";
import { ApiProblemNote, Empty, Loaded } from "../../parts/Status.tsx";
import { Body, Small, Strong } from "../../parts/Text.tsx";
import { saveFrom } from "../../web/download.ts";
import { DropArea } from "../../web/DropArea.tsx";
import { useIntoView } from "../../web/intoView.ts";
import { PROBES } from "./LookDrawer.tsx";
import { SAY } from "../../sentences/sightings/quick-check.ts";

type Answered = QuickAnswer["answers"][number];
const OPEN_WORDS = { "cannot-tell": SAY.cannotTell, "not-in-it": SAY.notInIt } as const;
const SHOWN_AT_FIRST = 12;

const markOf = ({ state }: Answered) =>
  state === "cannot-tell" || state === "not-in-it" ? <StateMark state="due" words={OPEN_WORDS[state]} /> : <ResultMark result={state} />;

/** What was found, troubles first. */
const ORDER: readonly Answered["state"][] = ["swapped", "faked", "cannot-tell", "not-in-it", "asked-for", "seen"];
const WORDS: Record<Answered["state"], string> = {
  seen: "seen",
  swapped: "swapped",
  faked: "faked",
  "asked-for": SAY.askedFor,
  "cannot-tell": SAY.cannotTell2,
  "not-in-it": SAY.notInIt2,
};

function Answers({ answer, programId, busy, onSure }: { answer: QuickAnswer; programId: number; busy: boolean; onSure: () => void }) {
  const [all, setAll] = useState(false);
  const place = useIntoView();
  const sorted = [...answer.answers].sort((a, b) => ORDER.indexOf(a.state) - ORDER.indexOf(b.state));
  const shown = all ? sorted : sorted.slice(0, SHOWN_AT_FIRST);
  const counts = [...ORDER].reverse().flatMap((state) => {
    const some = sorted.filter((one) => one.state === state).length;
    return some > 0 ? [`${some} ${WORDS[state]}`] : [];
  });
  return (
    <Drawer label={SAY.whatTheFileShows} note={count(sorted.length, "style")} testID="check-answers">
      <DrawerRow first>
        <View role="status" ref={place}>
          <Strong testID="check-counts">{counts.join(", ")}</Strong>
          {answer.question ? <Body className="mt-2">{answer.question}</Body> : null}
        </View>
        {answer.question ? (
          <View className="mt-3 items-start">
            <Button label={SAY.recordItAnyway} busy={busy} onPress={onSure} testID="check-sure" />
          </View>
        ) : null}
      </DrawerRow>
      {shown.map((one) => (
        <View key={one.styleId} className="border-t border-edge" testID="check-answer">
          <DrawerRow first>
            <View className="flex-row flex-wrap items-start justify-between gap-x-3 gap-y-1">
              <Strong className="min-w-0 shrink">{one.name}</Strong>
              {markOf(one)}
            </View>
            <Small className="mt-1">{one.reason}</Small>
          </DrawerRow>
          {one.state === "seen" ? null : <LinkRow label={SAY.lookAtIt} href={`/cell/${one.styleId}/${programId}`} />}
        </View>
      ))}
      {sorted.length > shown.length ? (
        <DrawerRow>
          <Button label={SAY.showMore(sorted.length - shown.length)} onPress={() => setAll(true)} />
        </DrawerRow>
      ) : null}
    </Drawer>
  );
}

function Page({
  check,
  onTaken,
}: {
  check: QuickCheck;
  onTaken: (answer: QuickAnswer, again: (() => Promise<QuickAnswer>) | undefined) => void;
}) {
  const { programId, programName } = check;
  /** What is on the page is what is asked for, whatever else becomes due meanwhile. */
  const page = `styles=${check.styles.map(({ styleId }) => styleId).join()}`;
  const [kind, setKind] = useState<keyof typeof PROBES>("docx");
  const practise = useAction(
    useCallback(
      async () => onTaken(await send("POST", `/programs/${programId}/check/practise?${page}`, QuickAnswer), undefined),
      [programId, page, onTaken],
    ),
  );
  const give = useAction(
    useCallback(
      async ([file]: readonly File[]) => {
        if (!file) return;
        const sent = (sure: boolean) =>
          upload(`/programs/${programId}/check?sure=${sure ? "1" : "0"}&${page}`, [{ name: file.name, file }], QuickAnswer);
        onTaken(await sent(false), () => sent(true));
      },
      [programId, page, onTaken],
    ),
  );
  const trouble = practise.problem ?? give.problem;
  return (
    <>
      {trouble ? <ApiProblemNote problem={trouble} /> : null}
      {check.practice ? (
        <View className="mb-4 gap-2">
          <Button
            strong
            icon={FileCheck}
            label={SAY.haveProgramNameDraw(programName, check.styles.length)}
            busy={practise.busy}
            onPress={practise.run}
            testID="check-practise"
          />
          <Small>{check.reopen ? SAY.itIsClosedAndOpened : SAY.itIsOpenedFirstWhere}</Small>
        </View>
      ) : null}
      <Drawer label={check.practice ? SAY.orByHand : SAY.onePageForAllOf}>
        <DrawerRow first>
          <Body>{check.practice ? SAY.openItSetEach(programName) : SAY.saveThePageOpenIt(programName)}</Body>
          <View className="mt-2 flex-row flex-wrap gap-2">
            <Choice label={SAY.kindOfPage} words={PROBES} value={kind} onChange={(next) => next && setKind(next)} testID="check-kind" />
            <Button
              icon={Download}
              strong={!check.practice}
              label={SAY.saveThePage}
              onPress={() => saveFrom(`/api/programs/${programId}/check/probe?kind=${kind}&${page}`)}
              testID="check-save"
            />
          </View>
        </DrawerRow>
        {check.practice ? (
          <LinkRow
            href={`/practice/${programId}`}
            label={SAY.openProgram(programName)}
            note={SAY.setWordsThereAndExport}
            testID="check-open-practice"
          />
        ) : null}
        <DropArea label={SAY.chooseTheExportedFile} multiple={false} onFiles={give.run}>
          {({ over, pick }) => (
            <View className={`gap-2 border-t border-edge px-3 py-3 ${over ? "bg-tab" : ""}`}>
              <Body>{over ? SAY.letGoAndItIs : SAY.thenDropHereWhatIt}</Body>
              <View className="items-start">
                <Button icon={FileCheck} label={SAY.addExportedFile} busy={give.busy} onPress={pick} testID="check-give" />
              </View>
            </View>
          )}
        </DropArea>
      </Drawer>
    </>
  );
}

/** The styles on the page. */
function Due({ check }: { check: QuickCheck }) {
  const [all, setAll] = useOpen("all on the page");
  const shown = all ? check.styles : check.styles.slice(0, SHOWN_AT_FIRST);
  return (
    <Drawer label={SAY.onThePage} note={count(check.styles.length, "style")} testID="check-due">
      {shown.map((style, i) => (
        <DrawerRow key={style.styleId} first={i === 0}>
          <Strong>{style.name}</Strong>
          {style.menuName === style.name ? null : <Small>{SAY.listedAsMenuName(style.menuName)}</Small>}
        </DrawerRow>
      ))}
      {check.styles.length > shown.length ? (
        <DrawerRow>
          <Button label={SAY.showMore(check.styles.length - shown.length)} onPress={() => setAll(true)} />
        </DrawerRow>
      ) : null}
    </Drawer>
  );
}

interface Props {
  programId: number | undefined;
  /** Only programs of this device. */
  deviceId: number | undefined;
  /** IDs of the families, or styles, it is narrowed to, with commas between. */
  families: string | undefined;
  styles: string | undefined;
}

export function QuickCheckScreen({ programId, deviceId, families, styles }: Props) {
  const router = useRouter();
  const all = useBoard({}).data?.programs ?? [];
  const programs = deviceId === undefined ? all : all.filter((one) => one.deviceId === deviceId);
  const id = programId ?? programs[0]?.id;
  const check = useQuickCheck(id, { families, styles });
  const [taken, setTaken] = useState<{ programId: number; answer: QuickAnswer; again: (() => Promise<QuickAnswer>) | undefined }>();
  const onTaken = useCallback(
    (answer: QuickAnswer, again: (() => Promise<QuickAnswer>) | undefined) =>
      id !== undefined && setTaken({ programId: id, answer, again }),
    [id],
  );
  const sure = useAction(
    useCallback(async () => {
      if (taken?.again) setTaken({ ...taken, answer: await taken.again(), again: undefined });
    }, [taken]),
  );
  const narrowed = families
    ? SAY.onlyWhatYouChoseN(families.split(",").length)
    : styles && SAY.onlyWhatYouChoseN2(styles.split(",").length);
  const answered = taken && taken.programId === id ? taken : undefined;
  return (
    <Screen title={SAY.quickCheck} note={SAY.everyStyleOfAProgram} back="/sightings" testID="quick-check">
      {programs.length > 0 && id !== undefined ? (
        <View className="mb-4">
          <Choice
            label={SAY.program}
            words={Object.fromEntries(programs.map((one) => [String(one.id), SAY.nameOnDeviceName(one.name, one.deviceName)]))}
            value={String(id)}
            onChange={(next) => router.setParams({ program: next })}
            testID="check-program"
          />
        </View>
      ) : null}
      {narrowed === undefined ? null : (
        <View className="mb-4 flex-row flex-wrap items-center gap-3" testID="check-narrowed">
          <Body>{narrowed}</Body>
          <Button
            label={SAY.checkEverything}
            onPress={() => router.setParams({ families: undefined, styles: undefined })}
            testID="check-everything"
          />
        </View>
      )}
      {sure.problem ? <ApiProblemNote problem={sure.problem} /> : null}
      {answered ? <Answers answer={answered.answer} programId={answered.programId} busy={sure.busy} onSure={sure.run} /> : null}
      <Loaded answer={check} what={SAY.findingWhatIsNotChecked}>
        {(value) =>
          value.styles.length === 0 ? (
            <Empty title={narrowed ? SAY.nothingLeftToCheckOf(value.programName) : SAY.everythingInProgramNameIsChecked(value.programName)}>
              <Body>{answered ? SAY.everythingItShouldListWas : SAY.placeAFamilyOnDeviceName(value.deviceName, value.programName)}</Body>
            </Empty>
          ) : (
            <>
              <Body className="mb-3">
                {SAY.totalNotCheckedYetIn(value.total, value.programName, value.deviceName, value.styles.length)}
              </Body>
              <Page check={value} onTaken={onTaken} />
              <Due check={value} />
            </>
          )
        }
      </Loaded>
    </Screen>
  );
}
