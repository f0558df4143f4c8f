// Quick check: one page for every style of a program that is not checked yet, and one exported file that answers for all of them.
import { useRouter } from "expo-router";
import { useCallback, useState } from "react";
import { View } from "react-native";
import { QuickAnswer, type QuickCheck } from "../../contract/quick-check.ts";
import { count } from "../../core/words/words.ts";
import { send, upload } from "../data/api.ts";
import { useBoard, useQuickCheck } from "../data/hooks.ts";
import { useAction } from "../data/useAction.ts";
import { Button } from "../parts/Button.tsx";
import { Choice } from "../parts/Choice.tsx";
import { Drawer, DrawerRow } from "../parts/Drawer.tsx";
import { Download, FileCheck } from "../parts/icons.ts";
import { LinkRow } from "../parts/LinkRow.tsx";
import { ResultMark, StateMark } from "../parts/Marks.tsx";
import { Screen } from "../parts/Screen.tsx";
import { ApiProblemNote, Empty, Loaded } from "../parts/Status.tsx";
import { Body, Small, Strong } from "../parts/Text.tsx";
import { saveFrom } from "../web/download.ts";
import { DropArea } from "../web/DropArea.tsx";
import { useIntoView } from "../web/intoView.ts";
import { PROBES } from "./LookDrawer.tsx";

type Answered = QuickAnswer["answers"][number];
const OPEN_WORDS = { "cannot-tell": "Cannot tell", "not-in-it": "Not in it" } as const;
const SHOWN_AT_FIRST = 12;

const markOf = ({ state }: Answered) =>
  state === "cannot-tell" || state === "not-in-it" ? <StateMark state="due" words={OPEN_WORDS[state]} /> : <ResultMark result={state} />;

/** What was found, troubles first. */
const ORDER: readonly Answered["state"][] = ["swapped", "faked", "cannot-tell", "not-in-it", "asked-for", "seen"];
const WORDS: Record<Answered["state"], string> = {
  seen: "seen",
  swapped: "swapped",
  faked: "faked",
  "asked-for": "asked for",
  "cannot-tell": "cannot tell",
  "not-in-it": "not in it",
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
    <Drawer label="What the file shows" note={count(sorted.length, "style")} testID="check-answers">
      <DrawerRow first>
        <View role="status" ref={place}>
          <Strong testID="check-counts">{counts.join(", ")}</Strong>
          {answer.question ? <Body className="mt-2">{answer.question}</Body> : null}
        </View>
        {answer.question ? (
          <View className="mt-3 items-start">
            <Button label="Record it all the same" busy={busy} onPress={onSure} testID="check-sure" />
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
          {one.state === "seen" ? null : <LinkRow label="Look at it" href={`/cell/${one.styleId}/${programId}`} />}
        </View>
      ))}
      {sorted.length > shown.length ? (
        <DrawerRow>
          <Button label={`Show ${sorted.length - shown.length} more`} onPress={() => setAll(true)} />
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
            label={`Have ${programName} draw ${check.styles.length === 1 ? "it" : `all ${check.styles.length}`}`}
            busy={practise.busy}
            onPress={practise.run}
            testID="check-practise"
          />
          <Small>
            {check.reopen
              ? "It is closed and opened again first, so that it knows what was placed."
              : "It is opened first where it is closed."}
          </Small>
        </View>
      ) : null}
      <Drawer label={check.practice ? "Or by hand" : "One page for all of them"}>
        <DrawerRow first>
          <Body>Save the page, open it in {programName}, and export it from there, best as a PDF.</Body>
          <View className="mt-2 flex-row flex-wrap gap-2">
            <Choice label="Kind of page" words={PROBES} value={kind} onChange={(next) => next && setKind(next)} testID="check-kind" />
            <Button
              icon={Download}
              strong={!check.practice}
              label="Save the page"
              onPress={() => saveFrom(`/api/programs/${programId}/check/probe?kind=${kind}&${page}`)}
              testID="check-save"
            />
          </View>
        </DrawerRow>
        <DropArea label="Choose the exported file" multiple={false} onFiles={give.run}>
          {({ over, pick }) => (
            <View className={`gap-2 border-t border-edge px-3 py-3 ${over ? "bg-tab" : ""}`}>
              <Body>{over ? "Let go, and it is read." : "Then drop here what it exported: it answers for every style on the page."}</Body>
              <View className="items-start">
                <Button icon={FileCheck} label="Give the exported file" busy={give.busy} onPress={pick} testID="check-give" />
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
  const [all, setAll] = useState(false);
  const shown = all ? check.styles : check.styles.slice(0, SHOWN_AT_FIRST);
  return (
    <Drawer label="On the page" note={count(check.styles.length, "style")} testID="check-due">
      {shown.map((style, i) => (
        <DrawerRow key={style.styleId} first={i === 0}>
          <Strong>{style.name}</Strong>
          {style.menuName === style.name ? null : <Small>Listed as “{style.menuName}”</Small>}
        </DrawerRow>
      ))}
      {check.styles.length > shown.length ? (
        <DrawerRow>
          <Button label={`Show ${check.styles.length - shown.length} more`} onPress={() => setAll(true)} />
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
    ? `Only what you chose: ${count(families.split(",").length, "family", "families")}.`
    : styles && `Only what you chose: ${count(styles.split(",").length, "style")}.`;
  const answered = taken && taken.programId === id ? taken : undefined;
  return (
    <Screen title="Quick check" note="Every style of a program that is not checked yet, at once." back="/sightings" testID="quick-check">
      {programs.length > 0 && id !== undefined ? (
        <View className="mb-4">
          <Choice
            label="Program"
            words={Object.fromEntries(programs.map((one) => [String(one.id), `${one.name} on ${one.deviceName}`]))}
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
            label="Check everything"
            onPress={() => router.setParams({ families: undefined, styles: undefined })}
            testID="check-everything"
          />
        </View>
      )}
      {sure.problem ? <ApiProblemNote problem={sure.problem} /> : null}
      {answered ? <Answers answer={answered.answer} programId={answered.programId} busy={sure.busy} onSure={sure.run} /> : null}
      <Loaded answer={check} what="Looking what is not checked yet">
        {(value) =>
          value.styles.length === 0 ? (
            <Empty
              title={
                narrowed ? `Nothing of these is left to check in ${value.programName}.` : `Everything in ${value.programName} is checked.`
              }
            >
              <Body>
                {answered
                  ? "Everything it should list was looked at."
                  : `Place a family on ${value.deviceName}; what ${value.programName} should list then is checked here.`}
              </Body>
            </Empty>
          ) : (
            <>
              <Body className="mb-3">
                {count(value.total, "style")} not checked yet in {value.programName} on {value.deviceName}.
                {value.total > value.styles.length
                  ? ` The first ${value.styles.length} are on the page; the others follow once these are answered.`
                  : ""}
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
