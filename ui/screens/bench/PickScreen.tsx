// Every style of the library in the person's own words, or one letter of each, as a quick list; those pinned become lines of a sheet.
import { useLocalSearchParams, useRouter } from "expo-router";
import { memo, useCallback, useMemo, useState } from "react";
import { TextInput, View } from "react-native";
import { SheetDetail, type BenchStyle, type StylePage } from "../../../contract/bench.ts";
import type { FaceKind, FamilyQuery, Script } from "../../../contract/families.ts";
import type { SizeOf } from "../../../core/bench/line.ts";
import { send } from "../../data/api.ts";
import { bare, newLine, styleKey, styleName } from "../../data/bench.ts";
import { useSheet, useStylesByLetter, useStylesNear } from "../../data/hooks.ts";
import { useSettled } from "../../data/settled.ts";
import { useAction } from "../../data/useAction.ts";
import { useSize, useWords } from "../../data/words.ts";
import { Button } from "../../parts/Button.tsx";
import { Choice } from "../../parts/Choice.tsx";
import { Check } from "../../parts/icons.ts";
import { Heading } from "../../parts/Screen.tsx";
import { SearchField } from "../../parts/SearchField.tsx";
import { ApiProblemNote, Empty, Loaded } from "../../parts/Status.tsx";
import { Body } from "../../parts/Text.tsx";
import { WordsBar } from "../../parts/WordsBar.tsx";
import { useNumberParam } from "../../parts/params.ts";
import { usePalette } from "../../theme/theme.ts";
import { useDrawnLine } from "../../web/draw.ts";
import { DrawnSvg, extentMm } from "../../web/DrawnSvg.tsx";
import { roomFor, rowHeight, StyleCell } from "../../web/StyleCell.tsx";
import { VirtualList } from "../../web/VirtualList.tsx";
import { SCRIPT_NAMES } from "../../../core/coverage/script-list.ts";
import { KIND_WORDS } from "../families/words.ts";
import { emOf, PX_A_MM, wantedOf } from "./SheetLine.tsx";
import { SAY } from "../../sentences/bench/bench.ts";

type Row = StylePage["styles"][number];
const SIZE_WORDS: Record<SizeOf, string> = { em: SAY.sameEm, small: SAY.sameHeightOfSmallLetters, capitals: SAY.sameHeightOfCapitals };
/** Of an em, as a small letter and a capital are on average: so sizes look alike whichever is chosen. */
const SHARE: Record<SizeOf, number> = { em: 1, small: 0.5, capitals: 0.7 };

interface RowProps {
  row: Row;
  text: string;
  px: number;
  of: SizeOf;
  pinned: boolean;
  one: boolean;
  onPress: (row: Row) => void;
}
const StyleRow = memo(function StyleRow({ row, text, px, of, pinned, one, onPress }: RowProps) {
  const palette = usePalette();
  const line = useMemo(
    () => ({ ...newLine(text, row), id: "row", size: { of, value: px * SHARE[of], unit: "px" as const } }),
    [row, text, px, of],
  );
  const wanted = useMemo(() => wantedOf(line), [line]);
  const { drawn } = useDrawnLine(wanted);
  const ready = drawn !== undefined && drawn !== "gone" && drawn.layers[0] ? drawn : undefined;
  const em = ready && emOf(line, ready).emMm;
  const layers = useMemo(() => line.layers.map((layer) => ({ ...layer, colour: palette.ink })), [line, palette]);
  const missing = ready?.layers[0]?.missing.length ?? 0;
  return (
    <StyleCell
      name={styleName(row)}
      note={missing > 0 ? SAY.missingMissing(missing) : ""}
      high={roomFor(px)}
      pinned={one ? undefined : pinned}
      onPress={() => onPress(row)}
    >
      {ready && em !== undefined ? (
        <DrawnSvg
          layers={layers}
          drawn={ready}
          emMm={em}
          scale={Math.min(PX_A_MM, roomFor(px) / extentMm(ready, em).height)}
          label={text}
        />
      ) : drawn === undefined ? null : (
        SAY.thisFontCannotBeDrawn
      )}
    </StyleCell>
  );
});

/** `known`: the style at this place, where the list is in an order of its own. */
const RowAt = memo(function RowAt({
  index,
  query,
  known,
  ...props
}: { index: number; query: FamilyQuery; known: Row | undefined; pins: ReadonlySet<string> } & Omit<RowProps, "row" | "pinned">) {
  const page = useStylesNear(query, index);
  const row = known ?? page.data?.styles[index - page.data.from];
  // Its part of the list is on its way.
  if (!row) return null;
  return <StyleRow row={row} pinned={props.pins.has(styleKey(row))} {...props} />;
});

export function PickScreen() {
  const router = useRouter();
  const [sheetId, layer] = [useNumberParam("sheet"), useNumberParam("layer")];
  const params = useLocalSearchParams();
  const lineId = typeof params["line"] === "string" ? params["line"] : undefined;
  const single = params["letter"] === "1";
  const one = sheetId !== undefined && lineId !== undefined;
  const sheet = useSheet(sheetId ?? 0);
  const [ownWords] = useWords();
  const [size] = useSize();
  const [letter, setLetter] = useState("&");
  const [search, setSearch] = useState("");
  const [script, setScript] = useState<Script>();
  const [kind, setKind] = useState<FaceKind>();
  const [of, setOf] = useState<SizeOf>("small");
  const [covers, setCovers] = useState(false);
  const [pins, setPins] = useState<ReadonlyMap<string, BenchStyle>>(new Map());
  const typed = useSettled(single ? letter : ownWords, 120);
  const text = useMemo(() => (single ? [...typed].slice(0, 4).join("") : typed.split("\n")[0]!) || SAY.ag, [single, typed]);
  const asked = useSettled(search);
  const query = useMemo(
    (): FamilyQuery => ({ search: asked, script, kind, text, covers: covers ? "yes" : undefined }),
    [asked, script, kind, text, covers],
  );
  const first = useStylesNear(query, 0);
  const [like, setLike] = useState<string>();
  const arranged = useStylesByLetter(query, text.codePointAt(0)!, single ? like : undefined);
  const order = like === undefined ? undefined : arranged.data?.styles;
  const total = order?.length ?? first.data?.total ?? 0;
  const model = [...pins.keys()].at(-1);
  const pinKeys = useMemo(() => new Set(pins.keys()), [pins]);
  const px = single ? Math.max(72, size * 1.6) : size;

  const replace = useAction(
    useCallback(
      async (style: BenchStyle) => {
        const { data } = sheet;
        if (!data || !lineId) return;
        const lines = data.body.lines.map((line) =>
          line.id === lineId
            ? { ...line, layers: line.layers.map((old, i) => (i === (layer ?? 0) ? { ...old, style, features: {}, axes: {} } : old)) }
            : line,
        );
        await send("POST", `/bench/sheets/${data.id}`, SheetDetail, { body: { ...data.body, lines }, from: data.step });
        router.replace(`/bench/sheet/${data.id}`);
      },
      [sheet, lineId, layer, router],
    ),
  );
  const add = useAction(
    useCallback(async () => {
      const fresh = [...pins.values()].map((style) => newLine(single ? text : ownWords || text, style));
      const known =
        sheetId === undefined ? await send("POST", "/bench/sheets", SheetDetail, { name: text.slice(0, 60) || SAY.newSheet }) : sheet.data;
      if (!known) return;
      const body = { ...known.body, lines: [...known.body.lines, ...fresh] };
      await send("POST", `/bench/sheets/${known.id}`, SheetDetail, { body, from: known.step });
      router.replace(`/bench/sheet/${known.id}`);
    }, [pins, single, text, ownWords, sheetId, sheet.data, router]),
  );
  const { run: runReplace } = replace;
  const press = useCallback(
    (row: Row) => {
      if (one) return runReplace(bare(row));
      setPins((known) => {
        const next = new Map(known);
        if (!next.delete(styleKey(row))) next.set(styleKey(row), bare(row));
        return next;
      });
    },
    [one, runReplace],
  );
  const problem = replace.problem ?? add.problem;
  const header = (
    <View className="pt-4">
      <Heading
        title={one ? SAY.anotherStyle : single ? SAY.oneLetter : SAY.yourWordsInEveryStyle}
        note={first.data ? SAY.stylesToLookThrough(total, pins.size) : undefined}
        back={sheetId === undefined ? "/bench" : `/bench/sheet/${sheetId}`}
      />
      {problem ? <ApiProblemNote problem={problem} /> : null}
      {single ? (
        <TextInput
          aria-label={SAY.theLetterOrAFew}
          testID="letter"
          value={letter}
          maxLength={8}
          onChangeText={setLetter}
          className="mb-3 min-h-[56px] border border-edge bg-drawer px-3 text-center font-text text-[30px] text-ink"
        />
      ) : (
        <WordsBar />
      )}
      <SearchField label={SAY.findAFamilyByName} value={search} onChange={setSearch} placeholder={SAY.findByName} testID="search" />
      <View className="mb-4 flex-row flex-wrap gap-2" role="group" aria-label={SAY.filters}>
        {single ? (
          <Button
            label={like === undefined ? SAY.mostLikeThePinnedOne : SAY.inTheOrderOfNames}
            pressed={like !== undefined}
            disabled={like === undefined && model === undefined}
            busy={like !== undefined && arranged.isLoading}
            onPress={() => setLike(like === undefined ? model : undefined)}
            testID="by-likeness"
          />
        ) : null}
        <Button label={SAY.drawsItAll} pressed={covers} onPress={() => setCovers(!covers)} testID="covers" />
        <Choice label={SAY.script} none={SAY.anyScript} words={SCRIPT_NAMES} value={script} onChange={setScript} testID="script" />
        <Choice label={SAY.kind} none={SAY.anyKind} words={KIND_WORDS} value={kind} onChange={setKind} testID="kind" />
        <Choice label={SAY.comparedAt} words={SIZE_WORDS} value={of} onChange={(next) => next && setOf(next)} testID="size-of" />
      </View>
    </View>
  );
  return (
    <View className="min-h-0 flex-1 bg-paper" testID="pick">
      <VirtualList
        count={total}
        rowHeight={rowHeight(px)}
        mostWide={768}
        header={header}
        render={(index) => (
          <RowAt known={order?.[index]} index={index} query={query} text={text} px={px} of={of} one={one} pins={pinKeys} onPress={press} />
        )}
        empty={
          <Loaded answer={first} what={SAY.fetchingYourStyles}>
            {() => (
              <Empty title={SAY.noStyleFits}>
                <Body>{SAY.removeAFilterOrShelve}</Body>
              </Empty>
            )}
          </Loaded>
        }
      />
      {one ? null : (
        <View className="border-t border-edge bg-drawer px-4 py-3">
          <View className="mx-auto w-full max-w-3xl">
            <Button
              strong
              icon={Check}
              label={pins.size === 0 ? SAY.pinStylesToPutThem : SAY.putSizeOnTheSheet(pins.size)}
              disabled={pins.size === 0}
              busy={add.busy}
              onPress={add.run}
              testID="put-lines"
            />
          </View>
        </View>
      )}
    </View>
  );
}
