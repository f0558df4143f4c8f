// Families: every entry a specimen of the person's own words above its trail.
import { Link } from "expo-router";
import { useState } from "react";
import { FlatList, ScrollView, TextInput, View } from "react-native";
import type { FamilySummary } from "../../contract/family.ts";
import type { StationKey } from "../../contract/style.ts";
import { count } from "../../core/words/words.ts";
import { useFamilies } from "../data/hooks.ts";
import { useSize, useWords } from "../data/words.ts";
import { Button } from "../parts/Button.tsx";
import { STATION_WORDS, Trail } from "../parts/Marks.tsx";
import { Heading } from "../parts/Screen.tsx";
import { Specimen } from "../parts/Specimen.tsx";
import { Empty, Loaded } from "../parts/Status.tsx";
import { Body, Small, Strong } from "../parts/Text.tsx";
import { WordsBar } from "../parts/WordsBar.tsx";
import { usePalette } from "../theme/theme.ts";

function FamilyCard({ family, words, size, current }: { family: FamilySummary; words: string; size: number; current: boolean }) {
  return (
    <Link href={`/family/${family.id}`} className="mb-3 w-full" testID="family-card" aria-current={current ? "true" : undefined}>
      <View className={`w-full border bg-drawer px-3 pb-2 pt-3 ${current ? "border-ink" : "border-edge"}`}>
        <Specimen specimen={family.specimen} words={words} size={size} covered={family.coversText} />
        <View className="mb-2 mt-1 flex-row items-baseline justify-between gap-3">
          <Strong lines={1} className="min-w-0 flex-1">
            {family.name}
          </Strong>
          <Small>{count(family.styles, "style")}</Small>
        </View>
        <Trail stations={family.trail} />
      </View>
    </Link>
  );
}

const FILTERS: readonly { key: StationKey; label: string }[] = [
  { key: "sound", label: `Stuck at ${STATION_WORDS.sound}` },
  { key: "placed", label: `Stuck at ${STATION_WORDS.placed}` },
  { key: "seen", label: `Stuck at ${STATION_WORDS.seen}` },
];

export function FamiliesScreen({ currentId, startAt }: { currentId?: number; startAt?: StationKey }) {
  const [words] = useWords();
  const [size] = useSize();
  const [search, setSearch] = useState("");
  const [at, setAt] = useState<StationKey | undefined>(startAt);
  const [covers, setCovers] = useState(false);
  const palette = usePalette();
  const answer = useFamilies({ search, text: words, at, covers: covers ? "yes" : undefined });
  const narrowed = search !== "" || at !== undefined || covers;
  const header = (
    <>
      <Heading title="Families" note={answer.data ? count(answer.data.length, "family", "families") : undefined} />
      <WordsBar />
      <TextInput
        aria-label="Find a family by name"
        testID="search"
        value={search}
        onChangeText={setSearch}
        placeholder="Find by name"
        placeholderTextColor={palette.faded}
        className="mb-3 min-h-[48px] border border-edge bg-drawer px-3 font-text text-base text-ink"
      />
      <ScrollView
        horizontal
        showsHorizontalScrollIndicator={false}
        className="mb-4"
        contentContainerClassName="gap-2"
        role="group"
        aria-label="Filters"
      >
        <Button label="Covers my words" pressed={covers} onPress={() => setCovers(!covers)} testID="covers" />
        {FILTERS.map((filter) => (
          <Button
            key={filter.key}
            label={filter.label}
            pressed={at === filter.key}
            onPress={() => setAt(at === filter.key ? undefined : filter.key)}
          />
        ))}
      </ScrollView>
    </>
  );
  return (
    <View className="min-h-0 flex-1 bg-paper" testID="families">
      <FlatList
        data={answer.data ?? []}
        keyExtractor={(family) => String(family.id)}
        contentContainerClassName="mx-auto w-full max-w-3xl px-4 pb-10 pt-4"
        ListHeaderComponent={header}
        initialNumToRender={8}
        windowSize={7}
        renderItem={({ item }) => <FamilyCard family={item} words={words} size={size} current={item.id === currentId} />}
        ListEmptyComponent={
          <Loaded answer={answer} what="Fetching your families">
            {() =>
              narrowed ? (
                <Empty title="No family fits.">
                  <Body>Take back a filter or search for less.</Body>
                </Empty>
              ) : (
                <Empty title="The shelf is empty.">
                  <Body>Bring in a download on Today and shelve it; its families appear here.</Body>
                </Empty>
              )
            }
          </Loaded>
        }
      />
    </View>
  );
}
