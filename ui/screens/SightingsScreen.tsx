// The board: families or styles against programs, a mark in each cell. A phone shows one program at a time, or one family.
import { Link } from "expo-router";
import { useState, type ReactNode } from "react";
import { FlatList, ScrollView, View } from "react-native";
import type { Board, BoardBy, SightingState } from "../../contract/sighting.ts";
import { count } from "../../core/words/words.ts";
import { useBoard, useJobs } from "../data/hooks.ts";
import { Button } from "../parts/Button.tsx";
import { Choice } from "../parts/Choice.tsx";
import { STATE_WORDS, StateMark } from "../parts/Marks.tsx";
import { Heading } from "../parts/Screen.tsx";
import { Empty, Loaded } from "../parts/Status.tsx";
import { Body, Small, Strong } from "../parts/Text.tsx";
import { useWide } from "../parts/useWide.ts";
import { BoardGrid } from "../web/BoardGrid.tsx";

type Row = Board["rows"][number];
// Not begun with a digit: an object keeps such keys in their numbers' order.
const keyOf = (row: Row): string => (row.styleId === null ? `f${row.familyId}` : `s${row.styleId}`);

function WideBoard({ board, header }: { board: Board; header: ReactNode }) {
  return (
    <View className="min-h-0 flex-1 px-4 pb-4 pt-4">
      {header}
      <BoardGrid board={board} label={board.rows[0]?.styleId == null ? "Families against programs" : "Styles against programs"} />
    </View>
  );
}

const NOTHING_FITS = "Nothing fits. Choose otherwise above.";

interface Filter {
  by: BoardBy;
  device: string | undefined;
  job: string | undefined;
  state: SightingState | undefined;
}

/** The part of the board that is asked for: programs of one device, families of one job, rows that hold a state. */
function narrowed(board: Board, filter: Filter, jobFamilies: readonly number[] | undefined): Board {
  const shown = board.programs
    .map((program, i) => ({ program, i }))
    .filter(({ program }) => !filter.device || String(program.deviceId) === filter.device);
  const rows = board.rows
    .filter((row) => !jobFamilies || jobFamilies.includes(row.familyId))
    .map((row) => ({ ...row, cells: shown.map(({ i }) => row.cells[i]!) }))
    .filter((row) => !filter.state || row.cells.some((cell) => cell.state === filter.state));
  return { programs: shown.map(({ program }) => program), rows };
}

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
  const devices = Object.fromEntries(board.programs.map((program) => [String(program.deviceId), program.deviceName]));
  return (
    <>
      <Choice
        label="Device"
        none="Every device"
        words={devices}
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

interface Entry {
  key: string;
  title: string;
  note?: string;
  cell: Row["cells"][number];
}

/** One program with all rows, or one row with all programs. */
function PhoneBoard({ board, whole, filter, onChange, heading }: FilterProps & { whole: Board; heading: ReactNode }) {
  const [along, setAlong] = useState<"program" | "row">("program");
  const [programId, setProgramId] = useState(board.programs[0]?.id);
  const [rowKey, setRowKey] = useState<string>();
  const chosen = [filter.device, filter.job, filter.state].filter((one) => one !== undefined).length;
  const [narrowing, setNarrowing] = useState(chosen > 0);
  const at = Math.max(
    0,
    board.programs.findIndex((program) => program.id === programId),
  );
  const row = board.rows.find((one) => keyOf(one) === rowKey) ?? board.rows[0];
  const what = filter.by === "families" ? "One family" : "One style";
  const entries: Entry[] =
    along === "program"
      ? board.rows.flatMap((one) => (one.cells[at] ? [{ key: keyOf(one), title: one.name, cell: one.cells[at] }] : []))
      : (row?.cells ?? []).map((cell, i) => {
          const program = board.programs[i]!;
          return { key: String(program.id), title: program.name, note: program.deviceName, cell };
        });
  return (
    <FlatList
      data={entries}
      keyExtractor={(entry) => entry.key}
      contentContainerClassName="px-4 pb-10 pt-4"
      ListHeaderComponent={
        <>
          {heading}
          <View className="mb-3 gap-2" role="group" aria-label="Show">
            <View className="flex-row gap-2">
              <RowsChoice filter={filter} onChange={onChange} grow />
              <Choice
                label="Look along"
                words={{ program: "One program", row: what }}
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
              <Choice
                label={what}
                words={Object.fromEntries(board.rows.map((one) => [keyOf(one), one.name]))}
                value={row && keyOf(row)}
                onChange={setRowKey}
                testID="board-row-choice"
              />
            )}
            {narrowing ? (
              <Narrowing board={whole} filter={filter} onChange={onChange} />
            ) : (
              <View className="items-start">
                <Button label="Narrow it down" hint="by device, job or state" onPress={() => setNarrowing(true)} testID="board-narrow" />
              </View>
            )}
            {board.rows.length === 0 ? <Body>{NOTHING_FITS}</Body> : null}
          </View>
        </>
      }
      renderItem={({ item: { title, note, cell } }) => (
        <Link href={`/cell/${cell.styleId}/${cell.programId}`} className="-mt-px w-full" testID="cell">
          <View className="min-h-[56px] w-full flex-row items-center justify-between gap-3 border border-edge bg-drawer px-3">
            <View className="min-w-0 flex-1">
              <Strong lines={1}>{title}</Strong>
              {note ? <Small lines={1}>{note}</Small> : null}
            </View>
            <StateMark state={cell.state} />
          </View>
        </Link>
      )}
    />
  );
}

export function SightingsScreen() {
  const [filter, setFilter] = useState<Filter>({ by: "families", device: undefined, job: undefined, state: undefined });
  const answer = useBoard(filter.by);
  const wide = useWide();
  const jobs = useJobs().data;
  if (answer.data && answer.data.rows.length > 0) {
    const board = narrowed(answer.data, filter, jobs?.find((job) => String(job.id) === filter.job)?.familyIds);
    const rows = filter.by === "families" ? count(board.rows.length, "family", "families") : count(board.rows.length, "style");
    const heading = <Heading title="Sightings" note={`${rows}, ${count(board.programs.length, "program")}`} />;
    return (
      <View className="min-h-0 flex-1 bg-paper" testID="sightings">
        {wide ? (
          <WideBoard
            board={board}
            header={
              <>
                {heading}
                <View className="mb-3 flex-row flex-wrap gap-2" role="group" aria-label="Show">
                  <RowsChoice filter={filter} onChange={setFilter} />
                  <Narrowing board={answer.data} filter={filter} onChange={setFilter} />
                </View>
                {board.rows.length === 0 ? <Body>{NOTHING_FITS}</Body> : null}
              </>
            }
          />
        ) : (
          <PhoneBoard board={board} whole={answer.data} filter={filter} onChange={setFilter} heading={heading} />
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
