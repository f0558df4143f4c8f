// One parcel: what is in it, drawer by drawer, trouble first, and the one action of shelving.
import { useRouter } from "expo-router";
import { useCallback, useMemo, useState } from "react";
import { TextInput, View } from "react-native";
import { ParcelDetail, ParcelSummary, ShelveResult, type ParcelStyle } from "../../../contract/parcels.ts";
import { sizeWords } from "../../../core/words/words.ts";
import { Done, send } from "../../data/api.ts";
import { useParcel } from "../../data/hooks.ts";
import { useProgress } from "../../data/progress.ts";
import { offerUndo } from "../../data/undo.ts";
import { useAction } from "../../data/useAction.ts";
import { useWords } from "../../data/words.ts";
import { useOpened } from "../../data/page.ts";
import { Button } from "../../parts/Button.tsx";
import { Drawer, DrawerRow } from "../../parts/Drawer.tsx";
import { LibraryBig, PackageOpen, Trash2 } from "../../parts/icons.ts";
import { LeftAs } from "../../parts/LeftAs.tsx";
import { ListScreen } from "../../parts/Screen.tsx";
import { Specimen } from "../../parts/Specimen.tsx";
import { ApiProblemNote, Loaded, ProblemNote, ProgressBar } from "../../parts/Status.tsx";
import { Small, Strong } from "../../parts/Text.tsx";
import { usePalette } from "../../theme/theme.ts";
import { ParcelLine, rowsOf, type ParcelRow } from "./ParcelRows.tsx";
import { SAY } from "../../sentences/parcels/parcel.ts";

/** What was found so far, drawn while the rest is still being unpacked. */
function Unpacking({ parcel, onCancel }: { parcel: ParcelDetail; onCancel: () => void }) {
  const [words] = useWords();
  const live = useProgress(parcel.id) ?? parcel.progress;
  const part = live?.entriesTotal ? live.entriesDone / live.entriesTotal : undefined;
  return (
    <>
      <View className="mb-4 border border-edge bg-drawer p-4" role="status" testID="unpacking">
        <Strong>{parcel.state === "waiting" ? SAY.waitingForItsTurn : SAY.unpacking}</Strong>
        <Small className="mb-3 mt-1">
          {live
            ? `${live.entriesDone}${live.entriesTotal ? ` of ${live.entriesTotal}` : ""} entries, ${sizeWords(live.bytesDone)}`
            : SAY.starting}
        </Small>
        <ProgressBar part={part} label={SAY.unpackingName(parcel.name)} />
        <View className="mt-3 items-start">
          <Button label={SAY.cancel} onPress={onCancel} testID="cancel-parcel" />
        </View>
      </View>
      {live && live.found.length > 0 ? (
        <Drawer label={SAY.foundSoFar}>
          {live.found.map((style, i) => (
            <DrawerRow key={`${style.sha256}#${style.face}`} first={i === 0} testID="early-style">
              <View className="flex-col-reverse">
                <Small lines={1}>{style.fullName}</Small>
                {style.verdict === "refused" ? null : (
                  <Specimen specimen={style} words={words} size={26} covered={style.sample === ""} lines={1} />
                )}
              </View>
            </DrawerRow>
          ))}
        </Drawer>
      ) : null}
    </>
  );
}

const LOCKED = new Set(["archive-password", "archive-password-wrong"]);

function Password({ busy, onGive }: { busy: boolean; onGive: (password: string) => void }) {
  const [password, setPassword] = useState("");
  const palette = usePalette();
  return (
    <View className="mt-3 gap-2">
      <TextInput
        aria-label={SAY.passwordOfTheArchive}
        testID="archive-password"
        value={password}
        onChangeText={setPassword}
        onSubmitEditing={() => onGive(password)}
        autoComplete="off"
        placeholder={SAY.password}
        placeholderTextColor={palette.faded}
        className="min-h-[48px] border border-edge bg-paper px-3 font-text text-base text-ink"
      />
      <Button strong label={SAY.unlock} busy={busy} disabled={password === ""} onPress={() => onGive(password)} testID="unlock" />
    </View>
  );
}

function useParcelActions(id: number, name: string) {
  const router = useRouter();
  const shelve = useAction(
    useCallback(
      async (faces?: { sha256: string; face: number }[]) => {
        const result = await send("POST", `/parcels/${id}/shelve`, ShelveResult, { faces });
        if (faces) return;
        if (result.familyIds.length === 1) router.push(`/family/${result.familyIds[0]}`);
        else router.push("/families");
      },
      [id, router],
    ),
  );
  const retry = useAction(useCallback((password?: string) => send("POST", `/parcels/${id}/retry`, ParcelSummary, { password }), [id]));
  const unwrap = useAction(useCallback((files: string[]) => send("POST", `/parcels/${id}/unwrap`, ParcelDetail, { files }), [id]));
  const remove = useAction(
    useCallback(async () => {
      await send("POST", `/parcels/${id}/remove`, Done);
      offerUndo(SAY.nameWasRemoved(name), () => send("POST", `/parcels/${id}/bring-back`, Done));
      router.replace("/");
    }, [id, name, router]),
  );
  const clear = useAction(
    useCallback(
      async (bytes: number) => {
        await send("POST", `/parcels/${id}/clear`, ParcelSummary);
        offerUndo(SAY.theArchiveIsDeletedTomorrow(bytes), () => send("POST", `/parcels/${id}/unclear`, ParcelSummary));
      },
      [id],
    ),
  );
  return { shelve, retry, unwrap, remove, clear };
}

/** Web fonts that may be unwrapped and whose installable file is not in the parcel yet. */
const wrapped = (parcel: ParcelDetail): ParcelStyle[] =>
  parcel.drawers
    .flatMap((drawer) => drawer.styles)
    .filter((style) => style.unwrap?.allowed && style.twin === "" && style.verdict !== "refused");

export const ParcelScreen = ({ id }: { id: number }) => (
  <LeftAs>
    <Parcel id={id} />
  </LeftAs>
);
function Parcel({ id }: { id: number }) {
  const answer = useParcel(id);
  const router = useRouter();
  const [words] = useWords();
  const [kept, setKept] = useOpened<string>("rows");
  const open: ReadonlySet<string> = useMemo(() => new Set(kept === undefined ? [] : kept.split("\n")), [kept]);
  const parcel = answer.data;
  const { shelve, retry, unwrap, remove, clear } = useParcelActions(id, parcel?.name ?? SAY.theParcel);
  const problem = shelve.problem ?? retry.problem ?? unwrap.problem ?? remove.problem ?? clear.problem;
  const rows = useMemo(() => (parcel?.state === "ready" ? rowsOf(parcel, open) : []), [parcel, open]);
  const toShelve = parcel?.state === "ready" ? parcel.shelvableStyles : 0;
  const web = parcel?.state === "ready" && toShelve === 0 ? wrapped(parcel) : [];
  const toggle = (key: string) => {
    const next = new Set(open);
    if (!next.delete(key)) next.add(key);
    setKept(next.size === 0 ? undefined : [...next].join("\n"));
  };
  const action =
    toShelve > 0 ? (
      <Button
        strong
        icon={LibraryBig}
        label={SAY.shelveToShelve(toShelve)}
        busy={shelve.busy}
        onPress={() => shelve.run()}
        testID="shelve"
      />
    ) : web.length > 0 ? (
      <Button
        strong
        icon={PackageOpen}
        label={SAY.unwrapWebToInstall(web.length)}
        busy={unwrap.busy}
        onPress={() => unwrap.run(web.map((style) => style.sha256))}
        testID="unwrap"
      />
    ) : parcel?.state === "ready" && parcel.shelvedStyles > 0 ? (
      <>
        <Button strong label={SAY.seeThemInFamilies} onPress={() => router.push("/families")} />
        {parcel.cleared ? null : (
          <Button
            icon={Trash2}
            label={SAY.clearTheArchiveBytes(parcel.bytes)}
            busy={clear.busy}
            onPress={() => clear.run(parcel.bytes)}
            testID="clear-archive"
          />
        )}
      </>
    ) : undefined;
  const line = (row: ParcelRow) => (
    <ParcelLine
      row={row}
      words={words}
      onToggle={toggle}
      onShelve={(style) => shelve.run([{ sha256: style.sha256, face: style.face }])}
      busy={shelve.busy}
    />
  );
  return (
    <ListScreen
      title={parcel?.name ?? SAY.parcel}
      note={parcel ? SAY.bytesArrivedArrivedAt(parcel.bytes, parcel.arrivedAt, parcel.cleared) : undefined}
      back="/"
      action={action}
      testID="parcel"
      rows={rows}
      keyOf={(row) => row.key}
      render={line}
      header={
        <>
          {problem ? <ApiProblemNote problem={problem} /> : null}
          <Loaded answer={answer} what={SAY.openingTheParcel}>
            {(value) => (
              <>
                {value.state === "waiting" || value.state === "unpacking" ? <Unpacking parcel={value} onCancel={remove.run} /> : null}
                {value.state === "failed" && value.problem ? (
                  <ProblemNote message={value.problem.message} next={value.problem.next}>
                    {LOCKED.has(value.problem.code) ? <Password busy={retry.busy} onGive={retry.run} /> : null}
                    <View className="mt-3 flex-row gap-3">
                      <Button label={SAY.tryAgain} busy={retry.busy} onPress={() => retry.run()} />
                      <Button label={SAY.remove} icon={Trash2} busy={remove.busy} onPress={remove.run} testID="remove-parcel" />
                    </View>
                  </ProblemNote>
                ) : null}
              </>
            )}
          </Loaded>
        </>
      }
    />
  );
}
