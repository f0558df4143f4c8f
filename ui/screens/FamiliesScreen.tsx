// Families: every entry a specimen of the person's own words above its trail. Only the part in view is fetched.
import { Link } from "expo-router";
import { memo, useCallback, useEffect, useMemo, useRef, useState } from "react";
import { FlatList, ScrollView, View } from "react-native";
import type { FaceKind, FamilyQuery, FamilySummary, Script } from "../../contract/family.ts";
import type { StationKey } from "../../contract/style.ts";
import { count } from "../../core/words/words.ts";
import { FAMILY_PAGE, useFamilies, useFamiliesNear, useJobs } from "../data/hooks.ts";
import { beginAfresh, EVERYTHING, leaveAt, useListing, whereLeft } from "../data/listing.ts";
import { useSettled } from "../data/settled.ts";
import { useSize, useWords } from "../data/words.ts";
import { Button } from "../parts/Button.tsx";
import { Choice } from "../parts/Choice.tsx";
import { Briefcase, Pin } from "../parts/icons.ts";
import { Trail } from "../parts/Marks.tsx";
import { Heading } from "../parts/Screen.tsx";
import { SearchField } from "../parts/SearchField.tsx";
import { Specimen } from "../parts/Specimen.tsx";
import { Empty, Loaded } from "../parts/Status.tsx";
import { Body, Small, Strong } from "../parts/Text.tsx";
import { MannerFilter, mannerSteps } from "./MannerFilter.tsx";
import { WordsBar } from "../parts/WordsBar.tsx";
import { cameBack } from "../web/cameBack.ts";
import { usePalette } from "../theme/theme.ts";

interface CardProps {
  family: FamilySummary;
  words: string;
  size: number;
  current: boolean;
}

const FamilyCard = memo(function FamilyCard({ family, words, size, current }: CardProps) {
  const palette = usePalette();
  return (
    <Link href={`/family/${family.id}`} className="mb-3 w-full" testID="family-card" aria-current={current ? "true" : undefined}>
      <View className={`w-full border bg-drawer px-3 pb-2 pt-3 ${current ? "border-ink" : "border-edge"}`}>
        <Specimen specimen={family.specimen} words={words} size={size} covered={family.coversText} />
        <View className="mb-2 mt-1 flex-row items-baseline justify-between gap-3">
          <Strong lines={1} className="min-w-0 flex-1">
            {family.name}
          </Strong>
          {family.pinned ? <Pin size={16} color={palette.ink} aria-label="Pinned" /> : null}
          <Small>{count(family.styles, "style")}</Small>
        </View>
        <Trail stations={family.trail} />
      </View>
    </Link>
  );
});

/** One place in the list; its part of the list is fetched when it comes near the window, and its room is kept until then. */
interface PlaceProps {
  index: number;
  query: FamilyQuery;
  size: number;
  currentId: number | undefined;
}

const FamilyAt = memo(function FamilyAt({ index, query, size, currentId }: PlaceProps) {
  const [words] = useWords();
  const page = useFamiliesNear(query, index);
  const family = page.data?.families[index % FAMILY_PAGE];
  if (!family) return <View style={{ height: size * 1.3 + 100 }} className="mb-3 w-full border border-edge bg-drawer" aria-hidden />;
  return <FamilyCard family={family} words={words} size={size} current={family.id === currentId} />;
});

function JobsLink() {
  const palette = usePalette();
  return (
    <Link href="/jobs" testID="jobs-link">
      <View className="min-h-[48px] flex-row items-center gap-2 border border-edge bg-drawer px-3">
        <Briefcase size={18} color={palette.ink} aria-hidden />
        <Strong>Jobs</Strong>
      </View>
    </Link>
  );
}

const STUCK: readonly { key: StationKey; label: string }[] = [
  { key: "sound", label: "Damaged" },
  { key: "cleared", label: "Not cleared yet" },
  { key: "placed", label: "Not placed yet" },
  { key: "seen", label: "Not seen yet" },
];

export const SCRIPT_WORDS: Record<Script, string> = {
  latin: "Latin",
  greek: "Greek",
  cyrillic: "Cyrillic",
  hebrew: "Hebrew",
  arabic: "Arabic",
  devanagari: "Devanagari",
  armenian: "Armenian",
  georgian: "Georgian",
  thai: "Thai",
  hangul: "Korean",
  kana: "Japanese",
  han: "Chinese characters",
};
export const KIND_WORDS: Record<FaceKind, string> = {
  text: "For text",
  symbols: "Symbols",
  variable: "Variable",
  colour: "Coloured",
  monospaced: "One width",
  capitals: "Capitals only",
  outlined: "Outlined letters",
};

/** So long a list may take to grow to where it was left. */
const RESTORING_MS = 3000;

export function FamiliesScreen({ currentId, startAt }: { currentId?: number; startAt?: StationKey }) {
  const [words] = useWords();
  const [size] = useSize();
  // Beside a family, and after going back, the list is as it was left; any other way here begins with everything.
  useState(() => (currentId === undefined && !cameBack() ? beginAfresh() : undefined));
  const [listing, change] = useListing();
  const { search, at, covers, pinned, script, kind, job, manner } = listing;
  // A way here that asks for one station starts afresh.
  useEffect(() => {
    if (startAt !== undefined && startAt !== at) change({ ...EVERYTHING, at: startAt });
    // Only when it is come to.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [startAt]);
  const [asksManner, setAsksManner] = useState(false);
  const jobs = useJobs();
  const jobNames = Object.fromEntries((jobs.data ?? []).map((one) => [String(one.id), one.name]));
  const [askedSearch, askedWords] = [useSettled(search), useSettled(words)];
  const query = useMemo(
    (): FamilyQuery => ({
      search: askedSearch,
      text: askedWords,
      at,
      script,
      kind,
      job: job === undefined ? undefined : Number(job),
      covers: covers ? "yes" : undefined,
      pinned: pinned ? "yes" : undefined,
      manner: manner === "" ? undefined : manner,
    }),
    [askedSearch, askedWords, at, script, kind, job, covers, pinned, manner],
  );
  const list = useRef<FlatList<number>>(null);
  const left = useRef(whereLeft());
  const first = useFamilies({ ...query, from: 0, limit: FAMILY_PAGE });
  const total = first.data?.total ?? 0;
  const places = useMemo(() => Array.from({ length: total }, (_, index) => index), [total]);
  // Back where it was left: asked for again whenever the list has grown, until it is reached, or for a moment.
  const restore = useCallback(() => {
    if (left.current > 0) list.current?.scrollToOffset({ offset: left.current, animated: false });
  }, []);
  useEffect(() => {
    if (total === 0) return;
    const frame = requestAnimationFrame(restore);
    const timer = setTimeout(() => (left.current = 0), RESTORING_MS);
    return () => {
      cancelAnimationFrame(frame);
      clearTimeout(timer);
    };
  }, [total, restore]);
  // The list's own event comes late: whoever scrolls and taps at once would be gone before it.
  useEffect(() => {
    const node = list.current?.getScrollableNode() as HTMLElement | undefined;
    const scrolled = () => {
      if (!node) return;
      if (Math.abs(node.scrollTop - left.current) < 4) left.current = 0;
      if (left.current === 0) leaveAt(node.scrollTop);
    };
    node?.addEventListener("scroll", scrolled, { passive: true });
    return () => node?.removeEventListener("scroll", scrolled);
  }, []);
  const narrowed =
    search !== "" ||
    at !== undefined ||
    covers ||
    pinned ||
    script !== undefined ||
    kind !== undefined ||
    job !== undefined ||
    manner !== "";
  const header = (
    <>
      <Heading title="Families" note={first.data ? count(total, "family", "families") : undefined} aside={<JobsLink />} />
      <WordsBar />
      <SearchField
        label="Find a family by name"
        value={search}
        onChange={(search) => change({ search })}
        placeholder="Find by name"
        testID="search"
      />
      <ScrollView
        horizontal
        showsHorizontalScrollIndicator={false}
        className="mb-4"
        contentContainerClassName="gap-2"
        role="group"
        aria-label="Filters"
      >
        <Button label="Covers my words" pressed={covers} onPress={() => change({ covers: !covers })} testID="covers" />
        <Button
          label={manner === "" ? "By manner" : `By manner (${mannerSteps(manner).size})`}
          pressed={asksManner || manner !== ""}
          onPress={() => setAsksManner(!asksManner)}
          testID="by-manner"
        />
        <Button label="Pinned" pressed={pinned} onPress={() => change({ pinned: !pinned })} testID="pinned" />
        {STUCK.map((filter) => (
          <Button
            key={filter.key}
            label={filter.label}
            pressed={at === filter.key}
            onPress={() => change({ at: at === filter.key ? undefined : filter.key })}
          />
        ))}
        {jobs.data && jobs.data.length > 0 ? (
          <Choice
            label="Cleared for a job"
            none="Cleared for any job"
            words={jobNames}
            value={job}
            onChange={(job) => change({ job })}
            testID="job-filter"
          />
        ) : null}
        <Choice
          label="Script"
          none="Any script"
          words={SCRIPT_WORDS}
          value={script}
          onChange={(script) => change({ script })}
          testID="script"
        />
        <Choice label="Kind" none="Any kind" words={KIND_WORDS} value={kind} onChange={(kind) => change({ kind })} testID="kind" />
      </ScrollView>
      {asksManner ? <MannerFilter chosen={manner} onChange={(manner) => change({ manner })} /> : null}
    </>
  );
  return (
    <View className="min-h-0 flex-1 bg-paper" testID="families">
      <FlatList
        ref={list}
        data={places}
        onContentSizeChange={restore}
        keyExtractor={String}
        contentContainerClassName="mx-auto w-full max-w-3xl px-4 pb-10 pt-4"
        ListHeaderComponent={header}
        initialNumToRender={8}
        windowSize={5}
        maxToRenderPerBatch={4}
        renderItem={({ item }) => <FamilyAt index={item} query={query} size={size} currentId={currentId} />}
        ListEmptyComponent={
          <Loaded answer={first} what="Fetching your families">
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
