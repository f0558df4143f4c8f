// All filters of the list on one sheet, each with how many families it would leave; and the ones that stand, to be taken back one by one.
import { useState } from "react";
import { View } from "react-native";
import type { FamilyCounts } from "../../../contract/families.ts";
import { USE_WORDS } from "../../../core/clearance/uses.ts";
import { SCRIPT_NAMES } from "../../../core/coverage/script-list.ts";
import { count } from "../../../core/words/words.ts";
import { useFamilyCounts } from "../../data/hooks.ts";
import { EVERYTHING, filtersOf, queryOf, type Listing } from "../../data/listing.ts";
import { useSettled } from "../../data/settled.ts";
import { useWords } from "../../data/words.ts";
import { Button } from "../../parts/Button.tsx";
import { X } from "../../parts/icons.ts";
import { Sheet } from "../../parts/Sheet.tsx";
import { Loaded } from "../../parts/Status.tsx";
import { Small } from "../../parts/Text.tsx";
import { MannerFilter, mannerSteps } from "./MannerFilter.tsx";
import { KIND_WORDS, STUCK_WORDS } from "./words.ts";
import { SAY } from "../../sentences/families/families.ts";

interface Entry {
  key: string;
  label: string;
  families: number;
}

/** One of several answers, or none: each a button with its number. Those that would leave nothing are not offered. */
function Facet({ label, entries, value, onChange, testID }: FacetProps) {
  const offered = entries.filter((one) => one.families > 0 || one.key === value);
  if (offered.length === 0) return null;
  return (
    <View className="mb-4" role="group" aria-label={label} testID={testID}>
      <Small className="mb-1 text-ink">{label}</Small>
      <View className="flex-row flex-wrap gap-2">
        {offered.map(({ key, label: words, families }) => (
          <Button
            key={key}
            label={`${words} ${families}`}
            hint={count(families, "family", "families")}
            pressed={key === value}
            onPress={() => onChange(key === value ? undefined : key)}
            testID={`filter-${key}`}
          />
        ))}
      </View>
    </View>
  );
}
interface FacetProps {
  label: string;
  entries: readonly Entry[];
  value: string | undefined;
  onChange: (key: string | undefined) => void;
  testID?: string;
}

const entriesOf = <K extends string>(words: Record<K, string>, counts: Partial<Record<K, number>>): Entry[] =>
  (Object.keys(words) as K[]).map((key) => ({ key, label: words[key], families: counts[key] ?? 0 }));
const named = (rows: readonly { id: number; name: string; families: number }[]): Entry[] =>
  rows.map(({ id, name, families }) => ({ key: String(id), label: name, families }));

interface Props {
  listing: Listing;
  onChange: (change: Partial<Listing>) => void;
}

function Facets({ counts, listing, onChange }: Props & { counts: FamilyCounts }) {
  const [asksManner, setAsksManner] = useState(listing.manner !== "");
  const numeric = (key: string | undefined) => (key === undefined ? undefined : Number(key));
  return (
    <>
      <View className="mb-4 flex-row flex-wrap gap-2" role="group" aria-label={SAY.showOnlyThoseThat}>
        <Button
          label={SAY.coverMyWordsCovers(counts.covers)}
          pressed={listing.covers}
          onPress={() => onChange({ covers: !listing.covers })}
          testID="covers"
        />
        <Button
          label={SAY.pinnedPinned(counts.pinned)}
          pressed={listing.pinned}
          onPress={() => onChange({ pinned: !listing.pinned })}
          testID="pinned"
        />
      </View>
      <Facet
        label={SAY.howFarTheyHaveCome}
        entries={entriesOf(STUCK_WORDS, counts.at)}
        value={listing.at}
        onChange={(at) => onChange({ at: at as Listing["at"] })}
      />
      <Facet
        label={SAY.tags}
        entries={named(counts.tags)}
        value={listing.tag?.toString()}
        onChange={(tag) => onChange({ tag: numeric(tag) })}
        testID="filter-tags"
      />
      <Facet
        label={SAY.script}
        entries={entriesOf(SCRIPT_NAMES, counts.scripts)}
        value={listing.script}
        onChange={(script) => onChange({ script: script as Listing["script"] })}
      />
      <Facet
        label={SAY.kind}
        entries={entriesOf(KIND_WORDS, counts.kinds)}
        value={listing.kind}
        onChange={(kind) => onChange({ kind: kind as Listing["kind"] })}
      />
      <Facet
        label={SAY.clearedFor}
        entries={entriesOf(USE_WORDS, counts.uses)}
        value={listing.use}
        onChange={(use) => onChange({ use: use as Listing["use"] })}
      />
      <Facet
        label={SAY.clearedForAJob}
        entries={named(counts.jobs)}
        value={listing.job?.toString()}
        onChange={(job) => onChange({ job: numeric(job) })}
        testID="filter-jobs"
      />
      {asksManner ? (
        <MannerFilter chosen={listing.manner} onChange={(manner) => onChange({ manner })} />
      ) : (
        <View className="items-start">
          <Button label={SAY.byManner} hint={SAY.howHeavyWideOrSlanted} onPress={() => setAsksManner(true)} testID="by-manner" />
        </View>
      )}
    </>
  );
}

export function FilterSheet({ listing, onChange, onClose }: Props & { onClose: () => void }) {
  const [words] = useWords();
  const counts = useFamilyCounts(queryOf({ ...listing, search: useSettled(listing.search) }, words));
  const total = counts.data?.total;
  return (
    <Sheet
      title={SAY.filters}
      onClose={onClose}
      testID="filter-sheet"
      action={
        <View className="flex-row gap-2">
          <Button
            label={SAY.removeAll}
            disabled={filtersOf(listing) === 0}
            onPress={() => onChange({ ...EVERYTHING, search: listing.search, sort: listing.sort, like: listing.like })}
            testID="no-filters"
          />
          <Button
            strong
            label={total === undefined ? SAY.show : SAY.showTotal(total)}
            onPress={onClose}
            className="flex-1"
            testID="show-filtered"
          />
        </View>
      }
    >
      <Loaded answer={counts} what={SAY.counting}>
        {(value) => <Facets counts={value} listing={listing} onChange={onChange} />}
      </Loaded>
    </Sheet>
  );
}

/** The filters that stand; a tap takes one back. */
export function FilterChips({ listing, onChange, jobs, tags }: Props & { jobs: Record<string, string>; tags: Record<string, string> }) {
  const chips: { label: string; without: Partial<Listing> }[] = [
    ...(listing.at && listing.at !== "in" ? [{ label: STUCK_WORDS[listing.at], without: { at: undefined } }] : []),
    ...(listing.covers ? [{ label: SAY.coverMyWords, without: { covers: false } }] : []),
    ...(listing.pinned ? [{ label: SAY.pinned, without: { pinned: false } }] : []),
    ...(listing.tag !== undefined ? [{ label: tags[listing.tag] ?? SAY.aTag, without: { tag: undefined } }] : []),
    ...(listing.script ? [{ label: SCRIPT_NAMES[listing.script], without: { script: undefined } }] : []),
    ...(listing.kind ? [{ label: KIND_WORDS[listing.kind], without: { kind: undefined } }] : []),
    ...(listing.use ? [{ label: SAY.clearedUseWords(USE_WORDS[listing.use]), without: { use: undefined } }] : []),
    ...(listing.job !== undefined ? [{ label: SAY.forIt(jobs[listing.job]), without: { job: undefined } }] : []),
    ...(listing.manner ? [{ label: SAY.mannerSize(mannerSteps(listing.manner).size), without: { manner: "" } }] : []),
  ];
  if (chips.length === 0) return null;
  return (
    <View className="mb-3 flex-row flex-wrap gap-2" role="group" aria-label={SAY.filtersInUse} testID="filter-chips">
      {chips.map(({ label, without }) => (
        <Button key={label} icon={X} label={label} hint={SAY.removeThisFilter} onPress={() => onChange(without)} testID="filter-chip" />
      ))}
    </View>
  );
}
