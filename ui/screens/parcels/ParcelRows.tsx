// A parcel's contents as one flat list of lines, so that thousands of them stay light: drawers by family, then the rest.
import { useCallback } from "react";
import { Pressable, View } from "react-native";
import type { ClearanceView } from "../../../contract/clearance.ts";
import type { EntryKind, ParcelDetail, ParcelEntry, ParcelStyle } from "../../../contract/parcels.ts";
import { Settings } from "../../../contract/settings.ts";
import type { Finding } from "../../../contract/styles.ts";
import { count, sizeWords } from "../../../core/words/words.ts";
import { familyKey } from "../../../core/family/group.ts";
import { Done, send } from "../../data/api.ts";
import { useSettings } from "../../data/hooks.ts";
import { offerUndo } from "../../data/undo.ts";
import { useAction } from "../../data/useAction.ts";
import { Button } from "../../parts/Button.tsx";
import { ClearanceTable } from "../../parts/Clearance.tsx";
import { DrawerTab } from "../../parts/Drawer.tsx";
import { FindingList } from "../../parts/Findings.tsx";
import { ReadPaper } from "../../parts/ReadPaper.tsx";
import { Specimen } from "../../parts/Specimen.tsx";
import { ApiProblemNote, ProblemNote } from "../../parts/Status.tsx";
import { Body, Small, Strong } from "../../parts/Text.tsx";
import { SAY } from "../../sentences/parcels/parcel.ts";

const KIND_WORDS: Record<EntryKind, string> = {
  font: SAY.fonts,
  "web font": SAY.webFonts,
  paper: SAY.papers,
  preview: SAY.previews,
  "design source": SAY.designSources,
  archive: SAY.archivesInside,
  junk: SAY.leftAside,
};

export type ParcelRow =
  | { key: string; what: "trouble"; entry: ParcelEntry }
  | { key: string; what: "twins" }
  | { key: string; what: "tab"; label: string; note: string }
  | { key: string; what: "notes"; notes: string[]; remarks: Finding[]; alike: ParcelDetail["drawers"][number]["alike"] }
  | { key: string; what: "clearance"; clearance: ClearanceView; open: boolean }
  | { key: string; what: "style"; style: ParcelStyle; open: boolean; last: boolean }
  | { key: string; what: "kind"; kind: EntryKind; entries: number; bytes: number; open: boolean; last: boolean }
  | { key: string; what: "entry"; kind: EntryKind; entry: ParcelEntry; last: boolean };

type DrawerOf = ParcelDetail["drawers"][number];
const refused = (drawer: DrawerOf): boolean => drawer.styles.some((style) => style.verdict === "refused");

/** All lines, trouble first. `open` holds the keys of lines that show more. */
export function rowsOf(parcel: ParcelDetail, open: ReadonlySet<string>): ParcelRow[] {
  const rows: ParcelRow[] = [];
  for (const entry of parcel.entries) if (entry.problem) rows.push({ key: `trouble ${entry.path}`, what: "trouble", entry });
  if (parcel.hasTwins) rows.push({ key: "twins", what: "twins" });
  for (const drawer of [...parcel.drawers].sort((a, b) => Number(refused(b)) - Number(refused(a)))) {
    const { family, styles, notes, remarks, alike } = drawer;
    rows.push({ key: `tab ${family}`, what: "tab", label: family, note: count(styles.length, "style") });
    if (notes.length + remarks.length + alike.length > 0) rows.push({ key: `notes ${family}`, what: "notes", notes, remarks, alike });
    if (drawer.clearance) {
      const key = `clearance ${family}`;
      rows.push({ key, what: "clearance", clearance: drawer.clearance, open: open.has(key) });
    }
    for (const [i, style] of styles.entries()) {
      const key = `style ${style.sha256}#${style.face}`;
      rows.push({ key, what: "style", style, open: open.has(key), last: i === styles.length - 1 });
    }
  }
  const kinds = (Object.keys(KIND_WORDS) as EntryKind[]).filter(
    (kind) => kind !== "font" && kind !== "web font" && parcel.entries.some((entry) => entry.kind === kind),
  );
  if (kinds.length > 0) rows.push({ key: "tab rest", what: "tab", label: SAY.alsoInTheParcel, note: "" });
  for (const kind of kinds) {
    const entries = parcel.entries.filter((entry) => entry.kind === kind);
    const key = `kind ${kind}`;
    const bytes = entries.reduce((sum, entry) => sum + entry.bytes, 0);
    const lastKind = kind === kinds.at(-1);
    rows.push({ key, what: "kind", kind, entries: entries.length, bytes, open: open.has(key), last: lastKind && !open.has(key) });
    if (open.has(key))
      for (const [i, entry] of entries.entries())
        rows.push({ key: `entry ${entry.path}`, what: "entry", kind, entry, last: lastKind && i === entries.length - 1 });
  }
  return rows;
}

const VERDICT_WORDS: Record<ParcelStyle["verdict"], string> = { sound: SAY.sound, usable: SAY.usableWithRemarks, refused: SAY.damaged };

interface StyleProps {
  row: Extract<ParcelRow, { what: "style" }>;
  words: string;
  busy: boolean;
  onToggle: (key: string) => void;
  onShelve: (style: ParcelStyle) => void;
}

function StyleLine({ row: { key, style, open }, words, busy, onToggle, onShelve }: StyleProps) {
  const installable = style.verdict !== "refused" && style.unwrap === null;
  return (
    <View testID="parcel-style" className="px-3 py-3">
      <View className="flex-row items-baseline justify-between gap-3">
        <Strong lines={1} className="min-w-0 flex-1">
          {style.style}
        </Strong>
        <Small className={style.verdict === "refused" ? "text-warning" : style.shelved ? "text-verdigris" : ""}>
          {style.shelved ? SAY.onTheShelf : style.twin ? SAY.staysInTheParcel : VERDICT_WORDS[style.verdict]}
        </Small>
      </View>
      {style.verdict === "refused" ? null : <Specimen specimen={style} words={words} size={26} covered={style.sample === ""} lines={1} />}
      <Small lines={1}>
        {style.path.split("/").at(-1)} · {count(style.codepoints, "character")}
      </Small>
      {style.names ? <Small>{style.names}</Small> : null}
      {style.known && !style.shelved && !style.twin ? <Small className="text-warning">{style.known}</Small> : null}
      {style.twin ? <Small>{style.twin}</Small> : null}
      {style.unwrap && !style.twin ? <Small>{SAY.aWebFontProgramsDo(style.unwrap.reason)}</Small> : null}
      <View className="flex-row items-center justify-between gap-3">
        {style.findings.length > 0 ? (
          <Pressable
            role="button"
            aria-expanded={open}
            onPress={() => onToggle(key)}
            testID="remarks"
            className="min-h-[44px] justify-center pr-4 active:opacity-60"
          >
            <Small className="text-ink underline">{open ? SAY.hideRemarks : count(style.findings.length, "remark")}</Small>
          </Pressable>
        ) : (
          <View />
        )}
        {installable && !style.shelved ? (
          <Pressable
            role="button"
            aria-label={SAY.shelveThisOneFullName(style.fullName)}
            aria-disabled={busy}
            disabled={busy}
            onPress={() => onShelve(style)}
            testID="shelve-one"
            className="min-h-[44px] justify-center pl-4 active:opacity-60"
          >
            <Small className="text-ink underline">{SAY.shelveThisOne}</Small>
          </Pressable>
        ) : null}
      </View>
      {open ? <FindingList findings={style.findings} /> : null}
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
      <Strong>{SAY.someStylesComeInTwo}</Strong>
      <Small className="mb-2">{SAY.eitherWorksOnAComputer}</Small>
      <View className="flex-row gap-2" role="group" aria-label={SAY.formatToTake}>
        <Button label={SAY.otf} pressed={chosen === "otf"} busy={choose.busy} onPress={() => choose.run("otf")} testID="take-otf" />
        <Button label={SAY.ttf} pressed={chosen === "ttf"} busy={choose.busy} onPress={() => choose.run("ttf")} testID="take-ttf" />
      </View>
    </View>
  );
}

type AlikeFamily = Extract<ParcelRow, { what: "notes" }>["alike"][number];
/** A family that seems to be the same one, and the way to file the two as one. */
function Alike({ alike: { name, reason, shelved, join } }: { alike: AlikeFamily }) {
  const file = useAction(
    useCallback(async (one: NonNullable<AlikeFamily["join"]>) => {
      await send("POST", `/families/${one.id}/join`, Done, { otherId: one.otherId });
      offerUndo(SAY.isFiledUnder(one.otherName, one.name), () =>
        send("POST", `/families/${one.id}/part`, Done, { key: familyKey(one.otherName) }),
      );
    }, []),
  );
  return (
    <View className="gap-2">
      <Small className="text-ink">
        {SAY.thisParcelAlsoHoldsName(shelved, name, reason)} {join ? "" : SAY.onceBothAreOnTheShelf}
      </Small>
      {file.problem ? <ApiProblemNote problem={file.problem} /> : null}
      {join ? (
        <View className="items-start">
          <Button label={SAY.fileUnder(join.otherName, join.name)} busy={file.busy} onPress={() => file.run(join)} testID="file-as-one" />
        </View>
      ) : null}
    </View>
  );
}

function Notes({ row }: { row: Extract<ParcelRow, { what: "notes" }> }) {
  return (
    <View className="gap-1 bg-tab px-3 py-2" testID="drawer-notes">
      {row.notes.map((note) => (
        <Small key={note} className="text-ink">
          {note}
        </Small>
      ))}
      {row.alike.map((alike) => (
        <Alike key={alike.name} alike={alike} />
      ))}
      <FindingList findings={row.remarks} />
    </View>
  );
}

interface LineProps extends Omit<StyleProps, "row"> {
  row: ParcelRow;
}

/** Sides and lower edge of the drawer a line lies in. */
const inDrawer = (last: boolean): string => `border-x border-t border-edge bg-drawer ${last ? "mb-4 border-b" : ""}`;

export function ParcelLine({ row, words, busy, onToggle, onShelve }: LineProps) {
  switch (row.what) {
    case "trouble":
      return (
        <ProblemNote testID="entry-problem" message={`${row.entry.path}: ${row.entry.problem!.message}`} next={row.entry.problem!.next} />
      );
    case "twins":
      return <TwinChoice />;
    case "tab":
      return <DrawerTab label={row.label} note={row.note} testID="parcel-drawer" />;
    case "notes":
      return (
        <View className={inDrawer(false)}>
          <Notes row={row} />
        </View>
      );
    case "clearance":
      return (
        <View className={inDrawer(false)} testID="parcel-clearance">
          <Pressable
            role="button"
            aria-expanded={row.open}
            onPress={() => onToggle(row.key)}
            testID="toggle-clearance"
            className="min-h-[48px] flex-row items-center justify-between gap-3 px-3 py-2 active:opacity-60"
          >
            <Small className="min-w-0 flex-1 text-ink">{row.clearance.headline}</Small>
            <Small>{row.open ? "▴" : "▾"}</Small>
          </Pressable>
          {row.open ? <ClearanceTable uses={row.clearance.uses} /> : null}
        </View>
      );
    case "style":
      return (
        <View className={inDrawer(row.last)}>
          <StyleLine row={row} words={words} busy={busy} onToggle={onToggle} onShelve={onShelve} />
        </View>
      );
    case "kind":
      return (
        <View className={inDrawer(row.last)}>
          <Pressable
            role="button"
            aria-expanded={row.open}
            testID={`kind-${row.kind}`}
            onPress={() => onToggle(row.key)}
            className="min-h-[48px] flex-row items-center justify-between gap-3 px-3 active:opacity-60"
          >
            <Body>{KIND_WORDS[row.kind]}</Body>
            <Small>
              {row.entries} · {sizeWords(row.bytes)} {row.open ? "▴" : "▾"}
            </Small>
          </Pressable>
        </View>
      );
    case "entry": {
      const { entry, kind, last } = row;
      const about = entry.problem ? `${entry.problem.message} ${entry.problem.next}` : `${entry.reason} ${sizeWords(entry.bytes)}`;
      return (
        <View className={`${inDrawer(last)} px-3 py-2`}>
          <Body>{entry.path}</Body>
          <Small>{about}</Small>
          {kind === "paper" && entry.sha256 ? <ReadPaper sha256={entry.sha256} path={entry.path} /> : null}
        </View>
      );
    }
  }
}
