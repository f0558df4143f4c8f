// One parcel: what is in it, drawer by drawer, trouble first, and the one action of shelving.
import { useRouter } from "expo-router";
import { LibraryBig, Trash2 } from "../parts/icons.ts";
import { useCallback, useState } from "react";
import { Pressable, TextInput, View } from "react-native";
import { z } from "zod";
import {
  ParcelSummary,
  ShelveResult,
  type EntryKind,
  type ParcelDetail,
  type ParcelEntry,
  type ParcelStyle,
} from "../../contract/parcel.ts";
import { Settings } from "../../contract/settings.ts";
import { count, sizeWords } from "../../core/words/words.ts";
import { send } from "../data/api.ts";
import { useParcel, useSettings } from "../data/hooks.ts";
import { useProgress } from "../data/progress.ts";
import { useAction } from "../data/useAction.ts";
import { useWords } from "../data/words.ts";
import { Button } from "../parts/Button.tsx";
import { Drawer, DrawerRow } from "../parts/Drawer.tsx";
import { ReadPaper } from "../parts/ReadPaper.tsx";
import { Screen } from "../parts/Screen.tsx";
import { Specimen } from "../parts/Specimen.tsx";
import { ApiProblemNote, Loaded, ProblemNote, ProgressBar } from "../parts/Status.tsx";
import { Body, Small, Strong } from "../parts/Text.tsx";
import { usePalette } from "../theme/theme.ts";

const KIND_WORDS: Record<EntryKind, string> = {
  font: "Fonts",
  "web font": "Web fonts",
  paper: "Papers",
  preview: "Previews",
  "design source": "Design sources",
  archive: "Archives inside",
  junk: "Left aside",
};

const VERDICT_WORDS: Record<ParcelStyle["verdict"], string> = { sound: "Sound", usable: "Usable, with remarks", refused: "Damaged" };

function StyleRow({ style, first, words }: { style: ParcelStyle; first: boolean; words: string }) {
  const [open, setOpen] = useState(false);
  const trouble = style.findings.length > 0;
  return (
    <DrawerRow first={first} testID="parcel-style">
      <View className="flex-row items-baseline justify-between gap-3">
        <Strong lines={1} className="min-w-0 flex-1">
          {style.style}
        </Strong>
        <Small className={style.verdict === "refused" ? "text-warning" : style.shelved ? "text-verdigris" : ""}>
          {style.shelved ? "On the shelf" : style.twin ? "Stays in the parcel" : VERDICT_WORDS[style.verdict]}
        </Small>
      </View>
      {style.verdict === "refused" ? null : <Specimen specimen={style} words={words} size={26} covered={style.sample === ""} lines={1} />}
      <Small lines={1}>
        {style.path} · {count(style.codepoints, "character")}
      </Small>
      {style.known && !style.shelved && !style.twin ? <Small className="text-warning">{style.known}</Small> : null}
      {style.twin ? <Small>{style.twin}</Small> : null}
      {trouble ? (
        <Pressable
          role="button"
          aria-expanded={open}
          onPress={() => setOpen(!open)}
          className="min-h-[44px] justify-center active:opacity-60"
        >
          <Small className="text-ink underline">{open ? "Hide remarks" : count(style.findings.length, "remark")}</Small>
        </Pressable>
      ) : null}
      {open
        ? style.findings.map((finding) => (
            <View key={finding.code + finding.message} className="mb-2 border-l-2 border-edge pl-3">
              <Body>{finding.message}</Body>
              <Small>
                {finding.meaning} {finding.next}
              </Small>
            </View>
          ))
        : null}
    </DrawerRow>
  );
}

function Entries({ kind, entries }: { kind: EntryKind; entries: ParcelEntry[] }) {
  const [open, setOpen] = useState(false);
  const bytes = entries.reduce((sum, entry) => sum + entry.bytes, 0);
  return (
    <View className="border-t border-edge first:border-t-0">
      <Pressable
        role="button"
        aria-expanded={open}
        testID={`kind-${kind}`}
        onPress={() => setOpen(!open)}
        className="min-h-[48px] flex-row items-center justify-between gap-3 px-3 active:opacity-60"
      >
        <Body>{KIND_WORDS[kind]}</Body>
        <Small>
          {entries.length} · {sizeWords(bytes)} {open ? "▴" : "▾"}
        </Small>
      </Pressable>
      {open
        ? entries.map((entry) => (
            <View key={entry.path} className="border-t border-edge px-3 py-2">
              <Body>{entry.path}</Body>
              <Small>
                {entry.problem ? `${entry.problem.message} ${entry.problem.next}` : `${entry.reason} ${sizeWords(entry.bytes)}`}
              </Small>
              {kind === "paper" && entry.sha256 ? <ReadPaper sha256={entry.sha256} path={entry.path} /> : null}
            </View>
          ))
        : null}
    </View>
  );
}

function Unpacking({ parcel, onCancel }: { parcel: ParcelDetail; onCancel: () => void }) {
  const live = useProgress(parcel.id) ?? parcel.progress;
  const part = live?.entriesTotal ? live.entriesDone / live.entriesTotal : undefined;
  return (
    <View className="border border-edge bg-drawer p-4" role="status" testID="unpacking">
      <Strong>{parcel.state === "waiting" ? "Waiting for its turn…" : "Unpacking…"}</Strong>
      <Small className="mb-3 mt-1">
        {live
          ? `${live.entriesDone}${live.entriesTotal ? ` of ${live.entriesTotal}` : ""} entries, ${sizeWords(live.bytesDone)}`
          : "Starting"}
      </Small>
      <ProgressBar part={part} label={`Unpacking ${parcel.name}`} />
      <View className="mt-3 items-start">
        <Button label="Cancel" onPress={onCancel} testID="cancel-parcel" />
      </View>
    </View>
  );
}

/** Which format is taken when a style comes in both; chosen once for all parcels. */
function TwinChoice() {
  const settings = useSettings();
  const choose = useAction(useCallback((twinFormat: "otf" | "ttf") => send("POST", "/settings", Settings, { twinFormat }), []));
  const chosen = settings.data?.twinFormat;
  return (
    <View className="mb-4 border border-edge bg-drawer p-3" testID="twins">
      <Strong>Some styles come in two formats.</Strong>
      <Small className="mb-2">Either works on a computer; tablets prefer .otf. One of each pair is taken, here and from now on:</Small>
      <View className="flex-row gap-2" role="group" aria-label="Format to take">
        <Button label=".otf" pressed={chosen === "otf"} busy={choose.busy} onPress={() => choose.run("otf")} testID="take-otf" />
        <Button label=".ttf" pressed={chosen === "ttf"} busy={choose.busy} onPress={() => choose.run("ttf")} testID="take-ttf" />
      </View>
    </View>
  );
}

function Contents({ parcel }: { parcel: ParcelDetail }) {
  const [words] = useWords();
  const troubled = parcel.entries.filter((entry) => entry.problem !== null);
  const kinds = (Object.keys(KIND_WORDS) as EntryKind[]).filter(
    (kind) => kind !== "font" && parcel.entries.some((entry) => entry.kind === kind),
  );
  const drawers = [...parcel.drawers].sort((a, b) => Number(hasTrouble(b)) - Number(hasTrouble(a)));
  return (
    <>
      {troubled.map((entry) => (
        <ProblemNote
          key={entry.path}
          testID="entry-problem"
          message={`${entry.path}: ${entry.problem!.message}`}
          next={entry.problem!.next}
        />
      ))}
      {parcel.hasTwins ? <TwinChoice /> : null}
      {drawers.map((drawer) => (
        <Drawer key={drawer.family} label={drawer.family} note={count(drawer.styles.length, "style")} testID="parcel-drawer">
          {drawer.notes.map((note) => (
            <DrawerRow key={note} first className="border-b border-edge bg-tab">
              <Small className="text-ink">{note}</Small>
            </DrawerRow>
          ))}
          {drawer.styles.map((style, i) => (
            <StyleRow key={`${style.sha256}#${style.face}`} style={style} first={i === 0} words={words} />
          ))}
        </Drawer>
      ))}
      {kinds.length > 0 ? (
        <Drawer label="Also in the parcel">
          {kinds.map((kind) => (
            <Entries key={kind} kind={kind} entries={parcel.entries.filter((entry) => entry.kind === kind)} />
          ))}
        </Drawer>
      ) : null}
    </>
  );
}

const hasTrouble = (drawer: ParcelDetail["drawers"][number]): boolean => drawer.styles.some((style) => style.verdict === "refused");

const LOCKED = new Set(["archive-password", "archive-password-wrong"]);

function Password({ busy, onGive }: { busy: boolean; onGive: (password: string) => void }) {
  const [password, setPassword] = useState("");
  const palette = usePalette();
  return (
    <View className="mt-3 gap-2">
      <TextInput
        aria-label="Password of the archive"
        testID="archive-password"
        value={password}
        onChangeText={setPassword}
        onSubmitEditing={() => onGive(password)}
        autoComplete="off"
        placeholder="Password"
        placeholderTextColor={palette.faded}
        className="min-h-[48px] border border-edge bg-paper px-3 font-text text-base text-ink"
      />
      <Button strong label="Unlock" busy={busy} disabled={password === ""} onPress={() => onGive(password)} testID="unlock" />
    </View>
  );
}

export function ParcelScreen({ id }: { id: number }) {
  const answer = useParcel(id);
  const router = useRouter();
  const shelve = useAction(
    useCallback(async () => {
      const result = await send("POST", `/parcels/${id}/shelve`, ShelveResult, {});
      if (result.familyIds.length === 1) router.push(`/family/${result.familyIds[0]}`);
      else router.push("/families");
    }, [id, router]),
  );
  const retry = useAction(useCallback((password?: string) => send("POST", `/parcels/${id}/retry`, ParcelSummary, { password }), [id]));
  const remove = useAction(
    useCallback(async () => {
      await send("DELETE", `/parcels/${id}`, z.object({ done: z.literal(true) }));
      router.replace("/");
    }, [id, router]),
  );
  const parcel = answer.data;
  const problem = shelve.problem ?? retry.problem ?? remove.problem;
  const toShelve = parcel?.state === "ready" ? parcel.shelvableStyles : 0;
  const action =
    toShelve > 0 ? (
      <Button
        strong
        icon={LibraryBig}
        label={`Shelve ${count(toShelve, "style")}`}
        busy={shelve.busy}
        onPress={shelve.run}
        testID="shelve"
      />
    ) : parcel?.state === "ready" && parcel.shelvedStyles > 0 ? (
      <Button strong label="See them in Families" onPress={() => router.push("/families")} />
    ) : undefined;
  return (
    <Screen
      title={parcel?.name ?? "Parcel"}
      note={parcel ? `${sizeWords(parcel.bytes)}, arrived ${new Date(parcel.arrivedAt).toLocaleDateString()}` : undefined}
      back="/"
      action={action}
      testID="parcel"
    >
      {problem ? <ApiProblemNote problem={problem} /> : null}
      <Loaded answer={answer} what="Opening the parcel">
        {(value) => (
          <>
            {value.state === "waiting" || value.state === "unpacking" ? <Unpacking parcel={value} onCancel={remove.run} /> : null}
            {value.state === "failed" && value.problem ? (
              <ProblemNote message={value.problem.message} next={value.problem.next}>
                {LOCKED.has(value.problem.code) ? <Password busy={retry.busy} onGive={retry.run} /> : null}
                <View className="mt-3 flex-row gap-3">
                  <Button label="Try again" busy={retry.busy} onPress={() => retry.run()} />
                  <Button label="Remove" icon={Trash2} busy={remove.busy} onPress={remove.run} testID="remove-parcel" />
                </View>
              </ProblemNote>
            ) : null}
            {value.state === "ready" ? <Contents parcel={value} /> : null}
          </>
        )}
      </Loaded>
    </Screen>
  );
}
