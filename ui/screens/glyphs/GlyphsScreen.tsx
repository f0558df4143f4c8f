// Every glyph of a style: found by word, reached how, copied as what is needed.
import { useLocalSearchParams, useRouter } from "expo-router";
import { memo, useCallback, useMemo, useState } from "react";
import { Pressable, ScrollView, View, useWindowDimensions } from "react-native";
import { listWords } from "../../../core/words/words.ts";
import type { GlyphView } from "../../../contract/bench.ts";
import type { GlyphKind } from "../../../core/symbols/kinds.ts";
import { codePointText } from "../../../core/symbols/symbols.ts";
import { keepSign, signUsed, useKeptSigns, useRecentSigns } from "../../data/bench.ts";
import { GLYPH_PAGE, useGlyphs, useStyleHead } from "../../data/hooks.ts";
import { useSettled } from "../../data/settled.ts";
import { Button } from "../../parts/Button.tsx";
import { Choice } from "../../parts/Choice.tsx";
import { Copy, Download, Pin, X } from "../../parts/icons.ts";
import { Heading } from "../../parts/Screen.tsx";
import { SearchField } from "../../parts/SearchField.tsx";
import { Empty, Loaded } from "../../parts/Status.tsx";
import { Body, Small, Strong } from "../../parts/Text.tsx";
import { useWide } from "../../parts/useWide.ts";
import { usePalette } from "../../theme/theme.ts";
import { useDrawnGlyphs, useGlyphOrder } from "../../web/draw.ts";
import { GlyphSvg } from "../../web/DrawnSvg.tsx";
import { VirtualList } from "../../web/VirtualList.tsx";
import { GlyphCells } from "../../web/GlyphCells.tsx";
import { download } from "../../web/download.ts";
import { SAY } from "../../sentences/bench/bench.ts";

const CELL = 64;
const KINDS: Record<GlyphKind, string> = {
  letters: SAY.letters,
  figures: SAY.figures,
  punctuation: SAY.punctuation,
  signs: SAY.signs,
  marks: SAY.marks,
};
/** Names with how many of each. */
const named = (counts: readonly { name: string; count: number }[] = []): Record<string, string> =>
  Object.fromEntries(counts.map(({ name, count: n }) => [name, `${name} (${n})`]));
/** Heights a drawing is saved at, in pixels. */
const HEIGHTS = {
  "64": SAY.n64Px,
  "128": SAY.n128Px,
  "256": SAY.n256Px,
  "512": SAY.n512Px,
  "1024": SAY.n1024Px,
  "2048": SAY.n2048Px,
} as const;
type Height = keyof typeof HEIGHTS;

interface Face {
  sha256: string;
  face: number;
}

/** A row of cells, drawn together. */
const GlyphRow = memo(function GlyphRow({ face, pairs: all, from, columns, chosen, onChoose }: RowProps) {
  const pairs = useMemo(() => all.slice(from, from + 2 * columns), [all, from, columns]);
  const glyphs = useMemo(() => pairs.filter((_, i) => i % 2 === 1), [pairs]);
  const drawn = useDrawnGlyphs(face.sha256, face.face, glyphs);
  return (
    <GlyphCells
      pairs={pairs}
      columns={columns}
      size={CELL}
      drawn={drawn === "gone" ? undefined : drawn}
      chosen={chosen}
      onChoose={onChoose}
    />
  );
});
interface RowProps {
  face: Face;
  /** All glyphs of the list as flat pairs of code point and glyph, and where this row's begin. */
  pairs: readonly number[];
  from: number;
  columns: number;
  chosen: number | undefined;
  onChoose: (glyph: number, codePoint: number) => void;
}

/** What a glyph is, how to get it, and what to take of it. */
function GlyphCard({
  styleId,
  face,
  glyph,
  codePoint,
  onClose,
  onAlike,
}: {
  styleId: number;
  face: Face;
  glyph: number;
  codePoint: number;
  onClose: () => void;
  onAlike: (glyph: number) => void;
}) {
  const palette = usePalette();
  const router = useRouter();
  const kept = useKeptSigns();
  const [said, setSaid] = useState("");
  const [height, setHeight] = useState<Height>("512");
  const drawn = useDrawnGlyphs(
    face.sha256,
    face.face,
    useMemo(() => [glyph], [glyph]),
  );
  const answer = useGlyphs(styleId, { find: codePoint >= 0 ? codePointText(codePoint) : `#${glyph}`, block: undefined, from: 0 });
  const programs = answer.data?.programs ?? [];
  const view: GlyphView | undefined = answer.data?.glyphs.find((one) => one.glyph === glyph);
  const one = drawn === undefined || drawn === "gone" ? undefined : drawn.glyphs[0];
  const character = codePoint >= 0 ? String.fromCodePoint(codePoint) : "";
  const ligature = view?.ways.find(({ features }) => features.length === 0)?.input ?? "";
  const copy = (text: string, what: string) => {
    void navigator.clipboard.writeText(text).then(
      () => setSaid(`${what} copied.`),
      () => setSaid(SAY.theBrowserDoesNotLet(text)),
    );
    if (character !== "") signUsed(character);
  };
  const svg = (): string | undefined => {
    if (!one || !drawn || drawn === "gone") return undefined;
    const box = [0, -drawn.ascent, Math.max(one.advance, 1), drawn.ascent + drawn.descent];
    const paths =
      one.coloured.length > 0
        ? one.coloured.map(({ path, colour }) => `<path d="${path}" fill="${colour ?? "#000"}"/>`).join("")
        : `<path d="${one.path}"/>`;
    return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="${box.join(" ")}" width="${Math.round((Number(height) * box[2]!) / box[3]!)}" height="${height}">${paths}</svg>`;
  };
  const name = (view?.title ?? `glyph ${glyph}`).toLowerCase().replace(/[^a-z0-9]+/g, "-");
  const saveSvg = () => {
    const text = svg();
    if (text) download(new Blob([text], { type: "image/svg+xml" }), `${name}.svg`);
  };
  const savePng = () => {
    const text = svg();
    if (!text) return;
    const picture = new Image();
    picture.onload = () => {
      const canvas = document.createElement("canvas");
      [canvas.width, canvas.height] = [picture.width, picture.height];
      canvas.getContext("2d")!.drawImage(picture, 0, 0);
      canvas.toBlob((blob) => blob && download(blob, `${name}.png`));
    };
    picture.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(text)}`;
  };
  return (
    <View className="border-t border-edge bg-drawer p-3" testID="glyph-card" role="region" aria-label={SAY.theChosenGlyph}>
      <View className="mx-auto w-full max-w-3xl">
        <View className="flex-row items-start gap-3">
          <View style={{ width: 104, height: 104 }} className="items-center justify-center border border-edge bg-paper">
            {one && drawn && drawn !== "gone" ? (
              <GlyphSvg font={drawn} glyph={one} size={92} colour={palette.ink} label={view?.title ?? SAY.theGlyph} />
            ) : null}
          </View>
          <View className="min-w-0 flex-1">
            <Strong testID="glyph-title">{view?.title ?? "…"}</Strong>
            <Small>
              {[codePoint >= 0 ? codePointText(codePoint) : SAY.noCharacterOfItsOwn, view?.name ?? "", view?.block ?? ""]
                .filter(Boolean)
                .join(" · ")}
            </Small>
            {answer.error ? <Small>{`${answer.error.message} ${answer.error.next}`}</Small> : null}
            {view?.ways.slice(0, 3).map((way) => (
              <Small key={way.sentence} className="text-ink">
                {way.sentence}
              </Small>
            ))}
            {view?.ways.some(({ features }) => features.length > 0) ? (
              <Small testID="glyph-programs">
                {programs.length > 0 ? SAY.programsCanTurnItOn(listWords(programs)) : SAY.noneOfYourProgramsIs}
              </Small>
            ) : null}
            {view && codePoint < 0 && view.ways.length === 0 ? <Small>{SAY.noWayToWriteIt}</Small> : null}
          </View>
          <Pressable
            role="button"
            aria-label={SAY.close}
            onPress={onClose}
            testID="glyph-close"
            className="h-11 w-11 items-center justify-center active:opacity-60"
          >
            <X size={20} color={palette.ink} />
          </Pressable>
        </View>
        <ScrollView horizontal showsHorizontalScrollIndicator={false} contentContainerClassName="gap-2 pt-3">
          {character !== "" ? (
            <Button
              strong
              icon={Copy}
              label={SAY.copyCharacter}
              onPress={() => copy(character, SAY.theCharacterIs)}
              testID="copy-character"
            />
          ) : null}
          {ligature !== "" && character === "" ? (
            <Button strong icon={Copy} label={SAY.copyItsWords} onPress={() => copy(ligature, SAY.theWordsAre)} testID="copy-words" />
          ) : null}
          {codePoint >= 0 ? (
            <Button
              label={SAY.copyCodePointText(codePointText(codePoint))}
              onPress={() => copy(codePointText(codePoint), SAY.theCodePointIs)}
              testID="copy-code"
            />
          ) : null}
          {codePoint >= 0 ? (
            <Button label={SAY.copyForHtml} onPress={() => copy(`&#x${codePoint.toString(16)};`, SAY.theHtmlIs)} testID="copy-html" />
          ) : null}
          {ligature !== "" && character !== "" ? (
            <Button label={SAY.copyItsWords} onPress={() => copy(ligature, SAY.theWordsAre)} testID="copy-words" />
          ) : null}
          <Choice
            label={SAY.heightOfTheDrawing}
            words={HEIGHTS}
            value={height}
            onChange={(next) => next && setHeight(next)}
            testID="drawing-height"
          />
          <Button icon={Download} label={SAY.svg} onPress={saveSvg} testID="save-svg" />
          <Button icon={Download} label={SAY.png} onPress={savePng} testID="save-png" />
          {character !== "" ? (
            <Button
              icon={Pin}
              label={SAY.keepAtHand}
              pressed={kept.includes(character)}
              onPress={() => keepSign(character, !kept.includes(character))}
              testID="keep-sign"
            />
          ) : null}
          <Button label={SAY.othersThatLookLikeIt} onPress={() => onAlike(glyph)} testID="alike" />
          {character !== "" ? (
            <Button
              label={SAY.whichOtherStylesDrawIt}
              onPress={() => router.push(`/bench/draws?text=${encodeURIComponent(character)}&style=${styleId}`)}
              testID="who-else"
            />
          ) : null}
        </ScrollView>
        <View role="status" aria-live="polite">
          {said === "" ? null : <Small className="mt-1">{said}</Small>}
        </View>
      </View>
    </View>
  );
}

function AtHand({ onTake }: { onTake: (text: string) => void }) {
  const [kept, recent] = [useKeptSigns(), useRecentSigns()];
  const rows: [string, readonly string[]][] = [
    [SAY.keptAtHand, kept],
    [SAY.usedLately, recent.filter((one) => !kept.includes(one))],
  ];
  return rows.map(([label, signs]) =>
    signs.length === 0 ? null : (
      <View key={label} className="mb-2">
        <Small>{label}</Small>
        <ScrollView horizontal showsHorizontalScrollIndicator={false} contentContainerClassName="gap-1">
          {signs.map((sign) => (
            <Pressable
              key={sign}
              role="button"
              aria-label={SAY.findSign(sign)}
              onPress={() => onTake(sign)}
              className="h-11 min-w-[44px] items-center justify-center border border-edge bg-drawer px-2 active:opacity-60"
            >
              <Body>{sign}</Body>
            </Pressable>
          ))}
        </ScrollView>
      </View>
    ),
  );
}

export function GlyphsScreen({ styleId }: { styleId: number }) {
  const wide = useWide();
  const { width } = useWindowDimensions();
  const given = useLocalSearchParams()["find"];
  const [search, setSearch] = useState(typeof given === "string" ? given : "");
  const [block, setBlock] = useState<string>();
  const [script, setScript] = useState<string>();
  const [kind, setKind] = useState<GlyphKind>();
  const [chosen, setChosen] = useState<{ glyph: number; codePoint: number }>();
  const find = useSettled(search, 150);
  const head = useStyleHead(styleId);
  const columns = Math.max(4, Math.floor(Math.min(wide ? width - 176 : width, 760) / CELL));
  const filtered = find.trim() !== "" || block !== undefined || script !== undefined || kind !== undefined;
  // What is found comes from the server, best first; everything is ordered by the font itself.
  const first = useGlyphs(styleId, { find, block, script, kind, from: 0 });
  const all = useGlyphOrder(head.data?.sha256 ?? "", head.data?.face ?? 0);
  const found = useMemo(() => first.data?.glyphs.flatMap(({ glyph, codePoints }) => [codePoints[0] ?? -1, glyph]) ?? [], [first.data]);
  const pairs = useMemo(() => (filtered ? found : all === "gone" || all === undefined ? [] : all), [filtered, found, all]);
  const choose = useCallback((glyph: number, codePoint: number) => setChosen({ glyph, codePoint }), []);
  const total = filtered ? (first.data?.total ?? 0) : pairs.length / 2;
  const title = head.data ? `${head.data.family} ${head.data.style}` : SAY.characters;
  const header = (
    <View className="pt-4">
      <Heading title={SAY.characters} note={head.data ? SAY.glyphsOfAStyle(title, total, filtered) : title} back="/bench" />
      <SearchField
        label={SAY.findACharacterByWord}
        value={search}
        onChange={setSearch}
        placeholder={SAY.findWateringCanU2708}
        testID="find-glyph"
      />
      <ScrollView horizontal showsHorizontalScrollIndicator={false} className="mb-3" contentContainerClassName="gap-2">
        <Choice label={SAY.kind} none={SAY.allKinds} words={KINDS} value={kind} onChange={setKind} testID="kind" />
        <Choice
          label={SAY.script}
          none={SAY.allScripts}
          words={named(first.data?.scripts)}
          value={script}
          onChange={setScript}
          testID="script"
        />
        <Choice label={SAY.block} none={SAY.allBlocks} words={named(first.data?.blocks)} value={block} onChange={setBlock} testID="block" />
      </ScrollView>
      <AtHand onTake={setSearch} />
      {first.error ? <Small className="mb-2">{`${first.error.message} ${first.error.next}`}</Small> : null}
    </View>
  );
  return (
    <View className="min-h-0 flex-1 bg-paper" testID="glyphs">
      <Loaded answer={head} what={SAY.fetchingTheStyle}>
        {(face) => (
          <>
            <VirtualList
              count={Math.ceil(pairs.length / 2 / columns)}
              rowHeight={CELL}
              mostWide={800}
              header={header}
              render={(row) => (
                <GlyphRow face={face} pairs={pairs} from={2 * row * columns} columns={columns} chosen={chosen?.glyph} onChoose={choose} />
              )}
              footer={filtered && total > GLYPH_PAGE ? <Small className="pt-3">{SAY.theBestGlyphPageAreShown(GLYPH_PAGE)}</Small> : null}
              empty={
                all === "gone" ? (
                  <Empty title={SAY.thisFontCannotBeDrawnHere}>
                    <Body>{SAY.itsFileCannotBeOpened}</Body>
                  </Empty>
                ) : filtered && first.data?.total === 0 ? (
                  <Empty title={SAY.nothingInThisFontIs}>
                    <Body>{SAY.tryAnotherWordOrAsk}</Body>
                  </Empty>
                ) : (
                  <Small>{SAY.openingTheFont}</Small>
                )
              }
            />
            {chosen ? (
              <GlyphCard
                key={chosen.glyph}
                styleId={styleId}
                face={face}
                glyph={chosen.glyph}
                codePoint={chosen.codePoint}
                onClose={() => setChosen(undefined)}
                onAlike={(glyph) => setSearch(`~${glyph}`)}
              />
            ) : null}
          </>
        )}
      </Loaded>
    </View>
  );
}
