// The board: families or styles against programs, a mark in each cell. A phone shows one program at a time, or one family. Only the part
// in view is fetched.
import { Link, useRouter } from "expo-router";
import { memo, useMemo, useState, type ReactNode } from "react";
import { FlatList, ScrollView, TextInput, View } from "react-native";
import type { Board, BoardBy, BoardQuery, SightingState } from "../../contract/sighting.ts";
import { count } from "../../core/words/words.ts";
import { BOARD_PAGE, useBoard, useFamilies, useJobs } from "../data/hooks.ts";
import { useSettled } from "../data/settled.ts";
import { Button } from "../parts/Button.tsx";
import { Choice } from "../parts/Choice.tsx";
import { STATE_WORDS, StateMark } from "../parts/Marks.tsx";
import { Heading } from "../parts/Screen.tsx";
import { FileCheck, FileSearch } from "../parts/icons.ts";
import { Empty, Loaded } from "../parts/Status.tsx";
import { Body, Small, Strong } from "../parts/Text.tsx";
import { useWide } from "../parts/useWide.ts";
import { usePalette } from "../theme/theme.ts";
import { BoardGrid } from "../web/BoardGrid.tsx";

type Row = Board["rows"][number];

const NOTHING_FITS = "Nothing fits. Choose otherwise above.";

interface Filter {
  by: BoardBy;
  device: string | undefined;
  job: string | undefined;
  state: SightingState | undefined;
}

const queryOf = ({ by, device, job, state }: Filter): Partial<BoardQuery> => ({
  by,
  device: device === undefined ? undefined : Number(device),
  job: job === undefined ? undefined : Number(job),
  state,
});

interface FilterProps {
  board: Board;
  filter: Filter;
  onChange: (filter: Filter) => void;
}

const RowsChoice = ({ filter, onChange, grow = false }: Omit<FilterProps, "board"> & { grow?: boolean }) => (
  <Choice
    label="Rows"
    words={{ families: "Families", styles: "Styles" }}
    value={filter.by}
    onChange={(by) => by && onChange({ ...filter, by })}
    grow={grow}
    testID="board-by"
  />
);

function Narrowing({ board, filter, onChange }: FilterProps) {
  const jobs = useJobs().data ?? [];
  return (
    <>
      <Choice
        label="Device"
        none="Every device"
        words={Object.fromEntries(board.devices.map((device) => [String(device.id), device.name]))}
        value={filter.device}
        onChange={(device) => onChange({ ...filter, device })}
        testID="board-device"
      />
      {jobs.length > 0 ? (
        <Choice
          label="Job"
          none="Every job"
          words={Object.fromEntries(jobs.map((job) => [String(job.id), job.name]))}
          value={filter.job}
          onChange={(job) => onChange({ ...filter, job })}
          testID="board-job"
        />
      ) : null}
      <Choice
        label="State"
        none="Every state"
        words={STATE_WORDS}
        value={filter.state}
        onChange={(state) => onChange({ ...filter, state })}
        testID="board-state"
      />
    </>
  );
}

interface EntryProps {
  title: string;
  note?: string;
  cell: Row["cells"][number];
}

const CellEntry = ({ title, note, cell }: EntryProps) => (
  <Link href={`/cell/${cell.styleId}/${cell.programId}`} className="-mt-px w-full" testID="cell">
    <View className="min-h-[56px] w-full flex-row items-center justify-between gap-3 border border-edge bg-drawer px-3">
      <View className="min-w-0 flex-1">
        <Strong lines={1}>{title}</Strong>
        {note ? <Small lines={1}>{note}</Small> : null}
      </View>
      <StateMark state={cell.state} />
    </View>
  </Link>
);

/** One place in the list of one program's rows; its part is fetched when it comes near the window. */
const CellAt = memo(function CellAt({ index, query, at }: { index: number; query: Partial<BoardQuery>; at: number }) {
  const row = useBoard(query, index).data?.rows[index % BOARD_PAGE];
  const cell = row?.cells[at];
  if (!row || !cell) return <View className="-mt-px min-h-[56px] w-full border border-edge bg-drawer" aria-hidden />;
  return <CellEntry title={row.name} cell={cell} />;
});

/** Finds the one family a phone looks along. */
function FamilyFinder({ name, onChoose }: { name: string; onChoose: (id: number, name: string) => void }) {
  const palette = usePalette();
  const [typed, setTyped] = useState<string>();
  const search = useSettled(typed);
  const answer = useFamilies(search ? { search, limit: 6 } : null);
  // What was found for earlier letters is not offered for these.
  const found = search === typed && !answer.isLoading ? answer.data : undefined;
  return (
    <View className="gap-1">
      <TextInput
        aria-label="The family to look along"
        testID="board-row-search"
        value={typed ?? name}
        onChangeText={setTyped}
        onFocus={() => setTyped("")}
        placeholder={name || "Find a family"}
        placeholderTextColor={palette.faded}
        className="min-h-[48px] border border-edge bg-drawer px-3 font-text text-base text-ink"
      />
      {typed && found
        ? found.families.map((family) => (
            <Button
              key={family.id}
              label={family.name}
              onPress={() => {
                onChoose(family.id, family.name);
                setTyped(undefined);
              }}
              testID="board-row-found"
            />
          ))
        : null}
    </View>
  );
}

/** One program with all rows, or one family with all programs. */
function PhoneBoard({ board, filter, onChange, heading }: FilterProps & { heading: ReactNode }) {
  const [along, setAlong] = useState<"program" | "row">("program");
  const [programId, setProgramId] = useState(board.programs[0]?.id);
  const [family, setFamily] = useState<{ id: number; name: string }>();
  const chosen = [filter.device, filter.job, filter.state].filter((one) => one !== undefined).length;
  const [narrowing, setNarrowing] = useState(chosen > 0);
  const query = useMemo(() => queryOf(filter), [filter]);
  const at = Math.max(
    0,
    board.programs.findIndex((program) => program.id === programId),
  );
  const first = board.rows[0];
  const shown = family ?? (first && { id: first.familyId, name: first.name });
  const own = useBoard(along === "row" && shown ? { ...query, state: undefined, family: shown.id } : null).data?.rows;
  const data = useMemo(
    (): (number | (EntryProps & { key: string }))[] =>
      along === "program"
        ? Array.from({ length: board.total }, (_, index) => index)
        : (own ?? []).flatMap((row) =>
            row.cells.map((cell, i) => {
              const program = board.programs[i];
              const title = row.styleId === null ? (program?.name ?? "") : `${row.name}: ${program?.name ?? ""}`;
              return { key: `${row.styleId}/${cell.programId}`, title, note: program?.deviceName, cell };
            }),
          ),
    [along, board.total, board.programs, own],
  );
  return (
    <FlatList
      data={data}
      keyExtractor={(entry) => (typeof entry === "number" ? String(entry) : entry.key)}
      contentContainerClassName="px-4 pb-10 pt-4"
      ListHeaderComponent={
        <>
          {heading}
          <View className="mb-3 gap-2" role="group" aria-label="Show">
            <View className="flex-row gap-2">
              <RowsChoice filter={filter} onChange={onChange} grow />
              <Choice
                label="Look along"
                words={{ program: "One program", row: "One family" }}
                value={along}
                onChange={(next) => next && setAlong(next)}
                grow
                testID="board-along"
              />
            </View>
            {along === "program" ? (
              <Choice
                label="Program"
                words={Object.fromEntries(
                  board.programs.map((program) => [String(program.id), `${program.name} on ${program.deviceName}`]),
                )}
                value={String(board.programs[at]?.id ?? "")}
                onChange={(id) => setProgramId(Number(id))}
                testID="board-program"
              />
            ) : (
              <FamilyFinder name={shown?.name ?? ""} onChoose={(id, name) => setFamily({ id, name })} />
            )}
            {narrowing ? <Narrowing board={board} filter={filter} onChange={onChange} /> : null}
            <View className="flex-row flex-wrap gap-2">
              {narrowing ? null : (
                <Button label="Narrow it down" hint="by device, job or state" onPress={() => setNarrowing(true)} testID="board-narrow" />
              )}
              <CheckButton programId={along === "program" ? board.programs[at]?.id : undefined} />
              <NeedsButton />
            </View>
            {board.total === 0 ? <Body>{NOTHING_FITS}</Body> : null}
          </View>
        </>
      }
      renderItem={({ item }) => (typeof item === "number" ? <CellAt index={item} query={query} at={at} /> : <CellEntry {...item} />)}
    />
  );
}

function NeedsButton() {
  const router = useRouter();
  return <Button icon={FileSearch} label="What does a document need?" onPress={() => router.push("/needs")} testID="needs-link" />;
}
function CheckButton({ programId }: { programId?: number | undefined }) {
  const router = useRouter();
  const to = programId === undefined ? "/check" : (`/check?program=${programId}` as const);
  return (
    <Button
      icon={FileCheck}
      label="Quick check"
      hint="of everything that is due in a program"
      onPress={() => router.push(to)}
      testID="check-link"
    />
  );
}

export function SightingsScreen() {
  const [filter, setFilter] = useState<Filter>({ by: "families", device: undefined, job: undefined, state: undefined });
  const query = useMemo(() => queryOf(filter), [filter]);
  const answer = useBoard(query);
  const wide = useWide();
  const board = answer.data;
  if (board && board.families > 0) {
    const rows = filter.by === "families" ? count(board.total, "family", "families") : count(board.total, "style");
    const ways = (
      <View className="flex-row gap-2">
        <CheckButton />
        <NeedsButton />
      </View>
    );
    const heading = (
      <Heading title="Sightings" note={`${rows}, ${count(board.programs.length, "program")}`} aside={wide ? ways : undefined} />
    );
    return (
      <View className="min-h-0 flex-1 bg-paper" testID="sightings">
        {wide ? (
          <View className="min-h-0 flex-1 px-4 pb-4 pt-4">
            {heading}
            <View className="mb-3 flex-row flex-wrap gap-2" role="group" aria-label="Show">
              <RowsChoice filter={filter} onChange={setFilter} />
              <Narrowing board={board} filter={filter} onChange={setFilter} />
            </View>
            {board.total === 0 ? <Body>{NOTHING_FITS}</Body> : null}
            <BoardGrid
              board={board}
              query={query}
              label={filter.by === "families" ? "Families against programs" : "Styles against programs"}
            />
          </View>
        ) : (
          <PhoneBoard board={board} filter={filter} onChange={setFilter} heading={heading} />
        )}
      </View>
    );
  }
  return (
    <View className="min-h-0 flex-1 bg-paper" testID="sightings">
      <ScrollView contentContainerClassName="px-4 pb-10 pt-4">
        <Heading title="Sightings" note="Which program was seen offering and drawing which family." />
        <Loaded answer={answer} what="Setting up the board">
          {() => (
            <Empty title="No families yet.">
              <Body>Once a family is on the shelf, this board says for every program where it will be listed, and keeps the evidence.</Body>
            </Empty>
          )}
        </Loaded>
      </ScrollView>
    </View>
  );
}
