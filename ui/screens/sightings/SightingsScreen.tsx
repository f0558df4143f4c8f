// The board: families or styles against programs, a mark in each cell. A phone shows one program at a time, or one family. Only the part
// in view is fetched.
import { Link, usePathname, useRouter } from "expo-router";
import { memo, useCallback, useEffect, useMemo, useState, type ReactNode } from "react";
import { FlatList, ScrollView, TextInput, View } from "react-native";
import { CellKeys, type Board, type BoardQuery } from "../../../contract/sightings.ts";
import { count } from "../../../core/words/words.ts";
import { get } from "../../data/api.ts";
import { beginBoard, boardParams, boardQuery, cellKey, filterOf, useBoardFilter, WHOLE_BOARD, type BoardFilter } from "../../data/board.ts";
import { useChoosing, type Choosing } from "../../data/choosing.ts";
import { BOARD_PAGE, searchOf, useBoard, useFamilies, useJobs } from "../../data/hooks.ts";
import { useSettled } from "../../data/settled.ts";
import { Button } from "../../parts/Button.tsx";
import { Choice } from "../../parts/Choice.tsx";
import { ChooseBox } from "../../parts/ChooseBar.tsx";
import { cellWords, STATE_WORDS, StateMark } from "../../parts/Marks.tsx";
import { Heading } from "../../parts/Screen.tsx";
import { FileCheck, FileSearch, ListChecks } from "../../parts/icons.ts";
import { Empty, Loaded } from "../../parts/Status.tsx";
import { Body, Small, Strong } from "../../parts/Text.tsx";
import { useWide } from "../../parts/useWide.ts";
import { usePalette } from "../../theme/theme.ts";
import { BoardGrid } from "../../web/BoardGrid.tsx";
import { cameBackTo } from "../../web/cameBack.ts";
import { useChoosingHands } from "../../web/useChoosingHands.ts";
import { BoardActs } from "./BoardActs.tsx";
import { SAY } from "../../sentences/sightings/sightings.ts";

type Row = Board["rows"][number];

const NOTHING_FITS = SAY.nothingFitsChangeWhatIs;

interface FilterProps {
  board: Board;
  filter: BoardFilter;
  onChange: (filter: BoardFilter) => void;
}

const RowsChoice = ({ filter, onChange, grow = false }: Omit<FilterProps, "board"> & { grow?: boolean }) => (
  <Choice
    label={SAY.rows}
    words={{ families: SAY.families, styles: SAY.styles }}
    value={filter.by}
    onChange={(by) => by && onChange({ ...filter, by })}
    grow={grow}
    testID="board-by"
  />
);

const numberOf = (text: string | undefined): number | undefined => (text === undefined ? undefined : Number(text));

function Narrowing({ board, filter, onChange }: FilterProps) {
  const jobs = useJobs().data ?? [];
  return (
    <>
      <Choice
        label={SAY.device}
        none={SAY.everyDevice}
        words={Object.fromEntries(board.devices.map((device) => [String(device.id), device.name]))}
        value={filter.device?.toString()}
        onChange={(device) => onChange({ ...filter, device: numberOf(device), program: undefined })}
        testID="board-device"
      />
      {jobs.length > 0 ? (
        <Choice
          label={SAY.job}
          none={SAY.everyJob}
          words={Object.fromEntries(jobs.map((job) => [String(job.id), job.name]))}
          value={filter.job?.toString()}
          onChange={(job) => onChange({ ...filter, job: numberOf(job) })}
          testID="board-job"
        />
      ) : null}
      <Choice
        label={SAY.state}
        none={SAY.everyState}
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
  /** Keys of cells that are chosen; undefined while nobody chooses. */
  chosen: ReadonlySet<string> | undefined;
}

const CellEntry = ({ title, note, cell, chosen }: EntryProps) => {
  const picked = chosen?.has(cellKey(cell));
  return (
    <View dataSet={{ choose: cellKey(cell) }} className="-mt-px w-full">
      <Link
        href={`/cell/${cell.styleId}/${cell.programId}`}
        className="w-full"
        testID="cell"
        role={picked === undefined ? undefined : "checkbox"}
        aria-checked={picked}
      >
        <View className="min-h-[56px] w-full flex-row items-center justify-between gap-3 border border-edge bg-drawer px-3">
          {picked === undefined ? null : <ChooseBox on={picked} />}
          <View className="min-w-0 flex-1">
            <Strong lines={1}>{title}</Strong>
            {note ? <Small lines={1}>{note}</Small> : null}
          </View>
          <StateMark state={cell.state} words={cellWords(cell)} />
        </View>
      </Link>
    </View>
  );
};

/** One place in the list of one program's rows; its part is fetched when it comes near the window. */
const CellAt = memo(function CellAt({
  index,
  query,
  at,
  chosen,
}: { index: number; query: Partial<BoardQuery>; at: number } & Pick<EntryProps, "chosen">) {
  const row = useBoard(query, index).data?.rows[index % BOARD_PAGE];
  const cell = row?.cells[at];
  if (!row || !cell) return <View className="-mt-px min-h-[56px] w-full border border-edge bg-drawer" aria-hidden />;
  return <CellEntry title={row.name} cell={cell} chosen={chosen} />;
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
        aria-label={SAY.familyToShow}
        testID="board-row-search"
        value={typed ?? name}
        onChangeText={setTyped}
        onFocus={() => setTyped("")}
        placeholder={name || SAY.findAFamily}
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
function PhoneBoard({ board, filter, onChange, heading, choosing }: FilterProps & { heading: ReactNode; choosing: Choosing }) {
  const chosenCells = choosing.chosen?.keys;
  const [along, setAlong] = useState<"program" | "row">("program");
  const [family, setFamily] = useState<{ id: number; name: string }>();
  const chosen = [filter.device, filter.job, filter.state].filter((one) => one !== undefined).length;
  const [narrowing, setNarrowing] = useState(chosen > 0);
  const query = useMemo(() => boardQuery(filter), [filter]);
  const at = Math.max(
    0,
    board.programs.findIndex((program) => program.id === filter.program),
  );
  const first = board.rows[0];
  const shown = family ?? (first && { id: first.familyId, name: first.name });
  const own = useBoard(along === "row" && shown ? { ...query, state: undefined, family: shown.id } : null).data?.rows;
  const data = useMemo(
    (): (number | (Omit<EntryProps, "chosen"> & { key: string }))[] =>
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
      extraData={chosenCells}
      contentContainerClassName="px-4 pb-10 pt-4"
      ListHeaderComponent={
        <>
          {heading}
          <View className="mb-3 gap-2" role="group" aria-label={SAY.show}>
            <View className="flex-row gap-2">
              <RowsChoice filter={filter} onChange={onChange} grow />
              <Choice
                label={SAY.show}
                words={{ program: SAY.oneProgram, row: SAY.oneFamily }}
                value={along}
                onChange={(next) => next && setAlong(next)}
                grow
                testID="board-along"
              />
            </View>
            {along === "program" ? (
              <Choice
                label={SAY.program}
                words={Object.fromEntries(
                  board.programs.map((program) => [String(program.id), SAY.nameOnDeviceName(program.name, program.deviceName)]),
                )}
                value={String(board.programs[at]?.id ?? "")}
                onChange={(id) => onChange({ ...filter, program: numberOf(id) })}
                testID="board-program"
              />
            ) : (
              <FamilyFinder name={shown?.name ?? ""} onChoose={(id, name) => setFamily({ id, name })} />
            )}
            {narrowing ? <Narrowing board={board} filter={filter} onChange={onChange} /> : null}
            <View className="flex-row flex-wrap gap-2">
              {narrowing ? null : (
                <Button label={SAY.narrowItDown} hint={SAY.byDeviceJobOrState} onPress={() => setNarrowing(true)} testID="board-narrow" />
              )}
              <CheckButton programId={along === "program" ? board.programs[at]?.id : undefined} />
              <NeedsButton />
              {choosing.chosen || board.total === 0 ? null : <ChooseCells onPress={() => choosing.begin()} />}
            </View>
            {board.total === 0 ? <Body>{NOTHING_FITS}</Body> : null}
          </View>
        </>
      }
      renderItem={({ item }) =>
        typeof item === "number" ? (
          <CellAt index={item} query={query} at={at} chosen={chosenCells} />
        ) : (
          <CellEntry {...item} chosen={chosenCells} />
        )
      }
    />
  );
}

const ChooseCells = ({ onPress }: { onPress: () => void }) => (
  <Button icon={ListChecks} label={SAY.choose} hint={SAY.severalCells} onPress={onPress} byKey="choose" testID="choose-cells" />
);
function NeedsButton() {
  const router = useRouter();
  return <Button icon={FileSearch} label={SAY.whatDoesADocumentNeed} onPress={() => router.push("/needs")} testID="needs-link" />;
}
function CheckButton({ programId }: { programId?: number | undefined }) {
  const router = useRouter();
  const to = programId === undefined ? "/check" : (`/check?program=${programId}` as const);
  return (
    <Button icon={FileCheck} label={SAY.quickCheck} hint={SAY.ofEverythingInAProgram} onPress={() => router.push(to)} testID="check-link" />
  );
}

function begin(path: string, params: Record<string, unknown>): void {
  const asked = filterOf(params);
  const back = cameBackTo(path);
  if (asked || !back) beginBoard(asked ?? WHOLE_BOARD);
}

export function SightingsScreen({ params }: { params: Record<string, unknown> }) {
  const path = usePathname();
  useState(() => begin(path, params));
  const [filter, setFilter] = useBoardFilter();
  const router = useRouter();
  const settled = useSettled(filter);
  useEffect(() => router.setParams(boardParams(settled)), [settled, router]);
  const query = useMemo(() => boardQuery(filter), [filter]);
  const answer = useBoard(query);
  const wide = useWide();
  const board = answer.data;
  const choosing = useChoosing("cells");
  // A phone shows one program: all of it is that column.
  const column = wide ? undefined : (filter.program ?? board?.programs[0]?.id);
  const order = useCallback(
    async () => (await get(`/board/cells?${searchOf({ ...query, program: column })}`, CellKeys)).cells.map(cellKey),
    [query, column],
  );
  const { put } = choosing;
  const all = useCallback(() => void order().then(put), [order, put]);
  const frame = useChoosingHands({ choosing, order, all });
  const chosenCount = choosing.chosen?.keys.size ?? 0;
  // On a wide screen all cells are those in the state that was asked for.
  const allWords = wide
    ? filter.state === undefined
      ? undefined
      : SAY.allStateWords(STATE_WORDS[filter.state].toLowerCase())
    : SAY.all(board?.total);
  if (board && board.families > 0) {
    const rows = filter.by === "families" ? count(board.total, "family", "families") : count(board.total, "style");
    const ways = (
      <View className="flex-row gap-2">
        <CheckButton />
        <NeedsButton />
      </View>
    );
    const heading = (
      <Heading title={SAY.sightings} note={`${rows}, ${count(board.programs.length, "program")}`} aside={wide ? ways : undefined} />
    );
    return (
      <View ref={frame} className="min-h-0 flex-1 bg-paper" testID="sightings">
        {wide ? (
          <View className="min-h-0 flex-1 px-4 pb-4 pt-4">
            {heading}
            <View className="mb-3 flex-row flex-wrap gap-2" role="group" aria-label={SAY.show}>
              <RowsChoice filter={filter} onChange={setFilter} />
              <Narrowing board={board} filter={filter} onChange={setFilter} />
              {choosing.chosen || board.total === 0 ? null : <ChooseCells onPress={() => choosing.begin()} />}
            </View>
            {board.total === 0 ? <Body>{NOTHING_FITS}</Body> : null}
            <BoardGrid
              board={board}
              query={query}
              chosen={choosing.chosen?.keys}
              label={filter.by === "families" ? SAY.familiesAgainstPrograms : SAY.stylesAgainstPrograms}
            />
          </View>
        ) : (
          <PhoneBoard board={board} filter={filter} onChange={setFilter} heading={heading} choosing={choosing} />
        )}
        <BoardActs
          choosing={choosing}
          board={board}
          all={allWords === undefined || (!wide && chosenCount >= board.total) ? undefined : { label: allWords, onPress: all }}
        />
      </View>
    );
  }
  return (
    <View className="min-h-0 flex-1 bg-paper" testID="sightings">
      <ScrollView contentContainerClassName="px-4 pb-10 pt-4">
        <Heading title={SAY.sightings} note={SAY.whichProgramWasSeenOffering} />
        <Loaded answer={answer} what={SAY.settingUpTheBoard}>
          {() => (
            <Empty title={SAY.yourBoardWillBeHere}>
              <Body>{SAY.onceAFamilyIsOn}</Body>
              <Link href="/" testID="to-today">
                <View className="min-h-[44px] justify-center">
                  <Strong className="underline">{SAY.goToToday}</Strong>
                </View>
              </Link>
            </Empty>
          )}
        </Loaded>
      </ScrollView>
    </View>
  );
}
