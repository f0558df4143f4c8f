// Families: every entry a specimen of the person's own words above its trail. Only the part in view is fetched. Several are chosen and acted
// on at once.
import { Link, usePathname, useRouter } from "expo-router";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { FlatList, View } from "react-native";
import { FamilyIds, FamilySort, type FamilyQuery } from "../../../contract/families.ts";
import { count } from "../../../core/words/words.ts";
import { get } from "../../data/api.ts";
import { useChoosing } from "../../data/choosing.ts";
import { FAMILY_PAGE, searchOf, useFamilies, useFamily, useFamilyCounts, useJobs } from "../../data/hooks.ts";
import { useLastUsed } from "../../data/lastUsed.ts";
import {
  beginWith,
  EVERYTHING,
  filtersOf,
  isNarrowed,
  leaveAt,
  listingOf,
  paramsOf,
  queryOf,
  standsAs,
  useListing,
  whereLeft,
} from "../../data/listing.ts";
import { useSettled } from "../../data/settled.ts";
import { useSize, useWords } from "../../data/words.ts";
import { Button } from "../../parts/Button.tsx";
import { Choice } from "../../parts/Choice.tsx";
import { Briefcase, SlidersHorizontal } from "../../parts/icons.ts";
import { Heading } from "../../parts/Screen.tsx";
import { SearchField } from "../../parts/SearchField.tsx";
import { Empty, Loaded } from "../../parts/Status.tsx";
import { Body, Small, Strong } from "../../parts/Text.tsx";
import { WordsBar } from "../../parts/WordsBar.tsx";
import { usePalette } from "../../theme/theme.ts";
import { cameBackTo } from "../../web/cameBack.ts";
import { useTouch } from "../../web/touch.ts";
import { useChoosingHands } from "../../web/useChoosingHands.ts";
import { FamilyActs } from "./FamilyActs.tsx";
import { FamilyAt } from "./FamilyCard.tsx";
import { FilterChips, FilterSheet } from "./FilterSheet.tsx";
import { SORT_WORDS } from "./words.ts";
import { SAY } from "../../sentences/families/families.ts";

function JobsLink() {
  const palette = usePalette();
  return (
    <Link href="/jobs" testID="jobs-link">
      <View className="min-h-[48px] flex-row items-center gap-2 border border-edge bg-drawer px-3">
        <Briefcase size={18} color={palette.ink} aria-hidden />
        <Strong>{SAY.jobs}</Strong>
      </View>
    </Link>
  );
}

/** So long a list may take to grow to where it was left. */
const RESTORING_MS = 3000;

interface Props {
  /** The family shown beside the list. */
  currentId?: number;
  /** What the address asks for, where the list has the page to itself. */
  params?: Record<string, unknown>;
}

/** As it was left, beside a family and after going back; any other way here begins as the address says. */
function begin(path: string, { params }: Props): void {
  if (params === undefined) return;
  const asked = listingOf(params);
  const back = cameBackTo(path);
  if (!back || (asked && !standsAs(asked))) beginWith(asked ?? EVERYTHING);
}

/** Keeps the address saying what the list shows. */
function useAddress(listing: ReturnType<typeof useListing>[0], mirrored: boolean): void {
  const router = useRouter();
  const settled = useSettled(listing);
  useEffect(() => {
    if (mirrored) router.setParams(paramsOf(settled));
  }, [settled, mirrored, router]);
}

export function FamiliesScreen({ currentId, params }: Props) {
  const [words] = useWords();
  const [size] = useSize();
  const path = usePathname();
  useState(() => begin(path, { params }));
  const [listing, change] = useListing();
  useAddress(listing, params !== undefined);
  const [filtering, setFiltering] = useState(false);
  const choosing = useChoosing("families");
  const touch = useTouch();
  const { search, sort } = listing;
  const [askedSearch, askedWords] = [useSettled(search), useSettled(words)];
  const query = useMemo((): FamilyQuery => queryOf({ ...listing, search: askedSearch }, askedWords), [listing, askedSearch, askedWords]);
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

  const idsThatFit = useCallback(async () => (await get(`/families/ids?${searchOf(query)}`, FamilyIds)).ids.map(String), [query]);
  const { put } = choosing;
  const chooseAll = useCallback(() => void idsThatFit().then(put), [idsThatFit, put]);
  const frame = useChoosingHands({ choosing, order: idsThatFit, all: chooseAll });
  const jobNames = Object.fromEntries((useJobs().data ?? []).map((one) => [String(one.id), one.name]));
  const tagNames = Object.fromEntries(
    (useFamilyCounts(listing.tag === undefined ? null : {}).data?.tags ?? []).map((one) => [one.id, one.name]),
  );
  const filters = filtersOf(listing);
  // By likeness to the family that is asked for, or to the one looked at last.
  const last = useLastUsed("family");
  const like = listing.like ?? last ?? undefined;
  const likeName = useFamily(like, askedWords).data?.name;
  const orders: Record<string, string> = {
    ...SORT_WORDS,
    ...(likeName === undefined ? {} : { likeness: SAY.mostLikeName(likeName) }),
  };
  const header = (
    <>
      <Heading title={SAY.families} note={first.data ? count(total, "family", "families") : undefined} aside={<JobsLink />} />
      <WordsBar />
      <SearchField
        label={SAY.findByNameScriptLanguage}
        value={search}
        onChange={(search) => change({ search })}
        placeholder={SAY.findByNameScriptMaker}
        testID="search"
      />
      <View className="mb-3 flex-row flex-wrap gap-2" role="group" aria-label={SAY.filtersAndOrder}>
        <Button
          icon={SlidersHorizontal}
          label={filters > 0 ? SAY.filtersFilters(filters) : SAY.filters}
          pressed={filters > 0}
          onPress={() => setFiltering(true)}
          testID="filters"
        />
        <Choice
          grow
          label={SAY.order}
          words={orders}
          value={sort ?? "name"}
          onChange={(next) =>
            change({
              sort: next === "name" ? undefined : FamilySort.optional().parse(next),
              like: next === "likeness" ? like : undefined,
            })
          }
          testID="sort"
        />
        {choosing.chosen ? null : (
          <Button
            label={SAY.choose}
            hint={SAY.severalFamilies}
            disabled={total === 0}
            onPress={() => choosing.begin()}
            byKey="choose"
            testID="choose"
          />
        )}
      </View>
      <FilterChips listing={listing} onChange={change} jobs={jobNames} tags={tagNames} />
      {first.data?.near ? (
        <View role="status" className="mb-3 border-l-4 border-edge bg-drawer p-3" testID="near">
          <Body>{SAY.nothingMatchesExactlyAskedSearchThese(askedSearch)}</Body>
        </View>
      ) : null}
    </>
  );
  return (
    <View ref={frame} className="min-h-0 flex-1 bg-paper" testID="families">
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
        extraData={choosing.chosen}
        renderItem={({ item }) => <FamilyAt index={item} query={query} size={size} currentId={currentId} chosen={choosing.chosen?.keys} />}
        ListEmptyComponent={
          <Loaded answer={first} what={SAY.fetchingYourFamilies}>
            {() =>
              isNarrowed(listing) ? (
                <Empty title={SAY.noFamilyFits}>
                  <Body>{SAY.removeAFilterOrSearch}</Body>
                  <View className="items-start">
                    <Button label={SAY.showAllFamilies} onPress={() => change(EVERYTHING)} testID="show-everything" />
                  </View>
                </Empty>
              ) : (
                <Empty title={SAY.yourFamiliesWillBeHere}>
                  <Body>{SAY.bringInADownloadOn}</Body>
                  <Link href="/" testID="to-today">
                    <View className="min-h-[44px] justify-center">
                      <Strong className="underline">{SAY.goToToday}</Strong>
                    </View>
                  </Link>
                </Empty>
              )
            }
          </Loaded>
        }
      />
      {choosing.chosen && choosing.chosen.keys.size === 0 && total > 0 ? (
        <Small className="px-4 pb-1">{touch ? SAY.tapThoseYouWant : SAY.clickThoseYouWantHold}</Small>
      ) : null}
      <FamilyActs choosing={choosing} total={total} onAll={chooseAll} />
      {filtering ? <FilterSheet listing={listing} onChange={change} onClose={() => setFiltering(false)} /> : null}
    </View>
  );
}
