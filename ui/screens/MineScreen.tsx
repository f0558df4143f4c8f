// The one page a device on the network has: showing its code, then what is wanted on it, fetching that, and saying what it has.
import { useCallback, useState } from "react";
import { View } from "react-native";
import useSWR from "swr";
import type { DeviceKind } from "../../contract/device.ts";
import { MyDevice, PairRequest, type MyStyle } from "../../contract/pairing.ts";
import { count, sizeWords } from "../../core/words/words.ts";
import { get, send, type ApiProblem } from "../data/api.ts";
import { useAction } from "../data/useAction.ts";
import { Button } from "../parts/Button.tsx";
import { Drawer, DrawerRow } from "../parts/Drawer.tsx";
import { TextField, useContractForm } from "../parts/form.tsx";
import { Download, Eye } from "../parts/icons.ts";
import { RadioRow } from "../parts/RadioRow.tsx";
import { Screen } from "../parts/Screen.tsx";
import { ApiProblemNote, Empty, Loaded, ProgressBar } from "../parts/Status.tsx";
import { Body, Small, Strong } from "../parts/Text.tsx";
import { saveFrom } from "../web/download.ts";
import { probeStyle } from "../web/probe.ts";

const KINDS: readonly { kind: DeviceKind; label: string }[] = [
  { kind: "tablet", label: "Tablet" },
  { kind: "phone", label: "Phone" },
  { kind: "laptop", label: "Laptop" },
  { kind: "desktop", label: "Desktop computer" },
];
const ANSWER_WORDS: Record<MyStyle["answer"], string> = {
  there: "Here: drawn as its file draws it",
  "not-there": "Not here yet",
  "cannot-tell": "This browser cannot tell",
  unasked: "Not checked yet",
};

function Pair({ onPaired }: { onPaired: (mine: MyDevice) => void }) {
  const form = useContractForm(PairRequest, { code: "", name: "", kind: "tablet" });
  const chosen = form.watch("kind");
  const pair = useAction(useCallback(async (request: PairRequest) => onPaired(await send("POST", "/pair", MyDevice, request)), [onPaired]));
  return (
    <Screen
      title="Pair this device"
      note="The code is shown on the computer Buvano runs on."
      testID="pair"
      action={<Button strong label="Pair" busy={pair.busy} onPress={() => void form.handleSubmit(pair.run)()} testID="pair-now" />}
    >
      {pair.problem ? <ApiProblemNote problem={pair.problem} /> : null}
      <TextField form={form} name="code" label="Code" numeric testID="pair-code-field" />
      <TextField form={form} name="name" label="What to call this device" placeholder="Greenhouse tablet" testID="pair-name" />
      <View role="radiogroup" aria-label="What it is">
        <Drawer label="What it is">
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
      const answers = [];
      try {
        for (const [i, style] of mine.styles.entries()) {
          setChecked(i);
          answers.push({ sha256: style.sha256, answer: await probeStyle(style) });
        }
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
      note={mine.styles.length === 0 ? undefined : `${count(mine.styles.length, "style")} wanted on this device.`}
      testID="mine"
      action={
        mine.styles.length > 0 ? (
          <>
            {checked !== undefined ? (
              <ProgressBar part={checked / mine.styles.length} label={`${checked} of ${mine.styles.length} checked`} />
            ) : null}
            <Button strong icon={Eye} label="Check what is here" busy={check.busy} onPress={check.run} testID="check-here" />
          </>
        ) : undefined
      }
    >
      {check.problem ? <ApiProblemNote problem={check.problem} /> : null}
      {mine.styles.length === 0 && mine.remove.length === 0 ? (
        <Empty title="Nothing is wanted here yet">
          <Body>Place a family on “{mine.name}” in Buvano; it appears here.</Body>
        </Empty>
      ) : null}
      {mine.profiles.length > 0 ? (
        <Drawer label="Profiles to fetch" note="Each asks for the passcode once">
          {mine.profiles.map((profile, i) => (
            <DrawerRow key={profile.subject} first={i === 0} className="gap-2">
              <Strong>{profile.name}</Strong>
              <Button
                icon={Download}
                label="Fetch the profile"
                hint={profile.name}
                onPress={() => saveFrom(`/api/mine/profile?${new URLSearchParams({ subject: profile.subject })}`)}
                testID="fetch-profile"
              />
            </DrawerRow>
          ))}
        </Drawer>
      ) : null}
      {mine.steps.length > 0 ? (
        <Drawer label="What to do">
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
            label={`Save all ${waiting} in one file`}
            onPress={() => saveFrom("/api/mine/all")}
            testID="save-all-wanted"
          />
        </View>
      ) : null}
      {mine.styles.some((style) => style.answer === "not-there") ? (
        <View className="mb-4 border-l-4 border-edge bg-drawer p-3" role="status" testID="restart-browser">
          <Body>
            Installed already? Close this browser completely and open it again: it reads fonts when it starts. Then check once more.
          </Body>
        </View>
      ) : null}
      {mine.styles.length > 0 ? (
        <Drawer label="Wanted here" note={`${mine.styles.filter((style) => style.answer === "there").length} here`}>
          {mine.styles.map((style, i) => (
            <DrawerRow key={style.sha256} first={i === 0} className="gap-1" testID="my-style">
              <Strong lines={1}>{style.name}</Strong>
              <Small className={style.answer === "there" ? "text-verdigris" : ""}>{ANSWER_WORDS[style.answer]}</Small>
              {byProfile ? null : (
                <View className="mt-1 items-start">
                  <Button
                    icon={Download}
                    label={`Save, ${sizeWords(style.bytes)}`}
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
        <Drawer label="To be taken off">
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
      <Screen title="This device" testID="mine-waiting">
        <Loaded answer={answer} what="Asking Buvano what is wanted here">
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
