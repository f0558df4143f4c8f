// The one page a device on the network has: showing its code, then what is wanted on it, fetching that, and saying what it has.
import { useCallback, useState } from "react";
import { View } from "react-native";
import useSWR from "swr";
import type { DeviceKind } from "../../../contract/devices.ts";
import { MyDevice, PairRequest, type MyStyle } from "../../../contract/pairing.ts";
import { get, send, type ApiProblem } from "../../data/api.ts";
import { useAction } from "../../data/useAction.ts";
import { Button } from "../../parts/Button.tsx";
import { Drawer, DrawerRow } from "../../parts/Drawer.tsx";
import { TextField, useContractForm } from "../../parts/form.tsx";
import { Download, Eye } from "../../parts/icons.ts";
import { RadioRow } from "../../parts/RadioRow.tsx";
import { Screen } from "../../parts/Screen.tsx";
import { ApiProblemNote, Empty, Loaded, ProgressBar } from "../../parts/Status.tsx";
import { Body, Small, Strong } from "../../parts/Text.tsx";
import { saveFrom } from "../../web/download.ts";
import { answersOf, inPortions, type Probed } from "../../data/probed.ts";
import { probeStyle } from "../../web/probe.ts";
import { SAY } from "../../sentences/pairing/mine.ts";

const KINDS: readonly { kind: DeviceKind; label: string }[] = [
  { kind: "tablet", label: SAY.tablet },
  { kind: "phone", label: SAY.phone },
  { kind: "laptop", label: SAY.laptop },
  { kind: "desktop", label: SAY.desktopComputer },
];
const ANSWER_WORDS: Record<MyStyle["answer"], string> = {
  there: SAY.hereDrawnAsItsFile,
  "not-there": SAY.notHereYet,
  "cannot-tell": SAY.thisBrowserCannotTell,
  unasked: SAY.notCheckedYet,
};

function Pair({ onPaired }: { onPaired: (mine: MyDevice) => void }) {
  const form = useContractForm(PairRequest, { code: "", name: "", kind: "tablet" });
  const chosen = form.watch("kind");
  const pair = useAction(useCallback(async (request: PairRequest) => onPaired(await send("POST", "/pair", MyDevice, request)), [onPaired]));
  return (
    <Screen
      title={SAY.pairThisDevice}
      note={SAY.theCodeIsShownOn}
      testID="pair"
      action={<Button strong label={SAY.pair} busy={pair.busy} onPress={() => void form.handleSubmit(pair.run)()} testID="pair-now" />}
    >
      {pair.problem ? <ApiProblemNote problem={pair.problem} /> : null}
      <TextField form={form} name="code" label={SAY.code} numeric testID="pair-code-field" />
      <TextField form={form} name="name" label={SAY.whatToCallThisDevice} placeholder={SAY.greenhouseTablet} testID="pair-name" />
      <View role="radiogroup" aria-label={SAY.whatItIs}>
        <Drawer label={SAY.whatItIs}>
          {KINDS.map((one, i) => (
            <RadioRow
              key={one.kind}
              first={i === 0}
              label={one.label}
              chosen={chosen === one.kind}
              onPress={() => form.setValue("kind", one.kind)}
              testID={`pair-kind-${one.kind}`}
            />
          ))}
        </Drawer>
      </View>
    </Screen>
  );
}

function Wanted({ mine, onAnswer }: { mine: MyDevice; onAnswer: (mine: MyDevice) => void }) {
  const [checked, setChecked] = useState<number>();
  const check = useAction(
    useCallback(async () => {
      const found: { sha256: string; probed: Probed }[] = [];
      try {
        for (const [i, style] of mine.styles.entries()) {
          setChecked(i);
          found.push({ sha256: style.sha256, probed: await probeStyle(style) });
        }
        const seenBefore = mine.styles.some(({ answer }) => answer === "there");
        for (const answers of inPortions(answersOf(found, seenBefore)))
          onAnswer(await send("POST", "/mine/answers", MyDevice, { answers }));
      } finally {
        setChecked(undefined);
      }
    }, [mine.styles, onAnswer]),
  );
  const waiting = mine.styles.filter((style) => style.answer !== "there").length;
  const byProfile = mine.kind === "tablet" || mine.kind === "phone";
  return (
    <Screen
      title={mine.name}
      note={mine.styles.length === 0 ? undefined : SAY.stylesWantedOnThisDevice(mine.styles.length)}
      testID="mine"
      action={
        mine.styles.length > 0 ? (
          <>
            {checked !== undefined ? (
              <ProgressBar part={checked / mine.styles.length} label={SAY.checkedOfStylesChecked(checked, mine.styles.length)} />
            ) : null}
            <Button strong icon={Eye} label={SAY.checkWhatIsHere} busy={check.busy} onPress={check.run} testID="check-here" />
          </>
        ) : undefined
      }
    >
      {check.problem ? <ApiProblemNote problem={check.problem} /> : null}
      {mine.styles.length === 0 && mine.remove.length === 0 ? (
        <Empty title={SAY.nothingToFetchYet}>
          <Body>{SAY.placeAFamilyOnName(mine.name)}</Body>
        </Empty>
      ) : null}
      {mine.profiles.length > 0 ? (
        <Drawer label={SAY.profilesToFetch} note={SAY.eachAsksForThePasscode}>
          {mine.profiles.map((profile, i) => (
            <DrawerRow key={profile.subject} first={i === 0} className="gap-2">
              <Strong>{profile.name}</Strong>
              <Button
                icon={Download}
                label={SAY.fetchTheProfile}
                hint={profile.name}
                onPress={() => saveFrom(`/api/mine/profile?${new URLSearchParams({ subject: profile.subject })}`)}
                testID="fetch-profile"
              />
            </DrawerRow>
          ))}
        </Drawer>
      ) : null}
      {mine.steps.length > 0 ? (
        <Drawer label={SAY.whatToDo}>
          {mine.steps.map((step, i) => (
            <DrawerRow key={step} first={i === 0}>
              <Body>
                {i + 1}. {step}
              </Body>
            </DrawerRow>
          ))}
        </Drawer>
      ) : null}
      {!byProfile && waiting > 1 ? (
        <View className="mb-4 items-start">
          <Button
            icon={Download}
            label={SAY.saveAllWaitingInOne(waiting)}
            onPress={() => saveFrom("/api/mine/all")}
            testID="save-all-wanted"
          />
        </View>
      ) : null}
      {mine.styles.some((style) => style.answer === "not-there") ? (
        <View className="mb-4 border-l-4 border-edge bg-drawer p-3" role="status" testID="restart-browser">
          <Body>{SAY.installedAlreadyCloseThisBrowser}</Body>
        </View>
      ) : null}
      {mine.styles.length > 0 ? (
        <Drawer label={SAY.wantedHere} note={SAY.nHere(mine.styles.filter((style) => style.answer === "there").length)}>
          {mine.styles.map((style, i) => (
            <DrawerRow key={style.sha256} first={i === 0} className="gap-1" testID="my-style">
              <Strong lines={1}>{style.name}</Strong>
              <Small className={style.answer === "there" ? "text-verdigris" : ""}>{ANSWER_WORDS[style.answer]}</Small>
              {byProfile ? null : (
                <View className="mt-1 items-start">
                  <Button
                    icon={Download}
                    label={SAY.saveBytes(style.bytes)}
                    hint={style.fileName}
                    onPress={() => saveFrom(`/api/files/${style.sha256}`)}
                    testID="save-file"
                  />
                </View>
              )}
            </DrawerRow>
          ))}
        </Drawer>
      ) : null}
      {mine.remove.length > 0 ? (
        <Drawer label={SAY.toBeTakenOff}>
          {mine.remove.map((name, i) => (
            <DrawerRow key={name} first={i === 0}>
              <Body>{name}</Body>
            </DrawerRow>
          ))}
        </Drawer>
      ) : null}
    </Screen>
  );
}

export function MineScreen() {
  // Nobody tells this page what changed, so it asks now and then.
  const answer = useSWR<MyDevice, ApiProblem>("/mine", () => get("/mine", MyDevice), {
    refreshInterval: 4000,
    shouldRetryOnError: (error: ApiProblem) => error.status !== 401,
    keepPreviousData: true,
  });
  const { mutate } = answer;
  const show = useCallback((mine: MyDevice) => void mutate(mine, { revalidate: false }), [mutate]);
  if (answer.error?.status === 401) return <Pair onPaired={show} />;
  if (answer.data === undefined) {
    return (
      <Screen title={SAY.thisDevice} testID="mine-waiting">
        <Loaded answer={answer} what={SAY.askingBuvanoWhatIsWanted}>
          {() => null}
        </Loaded>
      </Screen>
    );
  }
  return (
    <>
      {answer.error ? <ApiProblemNote problem={answer.error} /> : null}
      <Wanted mine={answer.data} onAnswer={show} />
    </>
  );
}
