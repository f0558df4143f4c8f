// The board: families against programs, a mark in each cell. A phone shows one program at a time.
import { Link } from "expo-router";
import { useState } from "react";
import { FlatList, ScrollView, View } from "react-native";
import type { Board } from "../../contract/sighting.ts";
import { count } from "../../core/words/words.ts";
import { useBoard } from "../data/hooks.ts";
import { Button } from "../parts/Button.tsx";
import { SeedMark, STATE_WORDS, StateMark } from "../parts/Marks.tsx";
import { Heading } from "../parts/Screen.tsx";
import { Empty, Loaded } from "../parts/Status.tsx";
import { Body, Small, Strong } from "../parts/Text.tsx";
import { useWide } from "../parts/useWide.ts";

type Row = Board["rows"][number];

function WideRow({ row, board }: { row: Row; board: Board }) {
  return (
    <View role="row" className="flex-row border-t border-edge" testID="board-row">
      <View role="rowheader" className="w-56">
        <Link href={`/family/${row.familyId}`} className="w-full">
          <View className="min-h-[56px] w-full justify-center px-3">
            <Strong lines={1}>{row.familyName}</Strong>
          </View>
        </Link>
      </View>
      {row.cells.map((cell, i) => {
        const program = board.programs[i]!;
        const words = `${row.familyName} in ${program.name} on ${program.deviceName}: ${STATE_WORDS[cell.state]}`;
        return (
          <View key={cell.programId} role="cell" className="w-32 border-l border-edge">
            <Link href={`/cell/${cell.styleId}/${cell.programId}`} aria-label={words} className="w-full" testID="cell">
              <View className="min-h-[56px] w-full items-center justify-center gap-1 py-1">
                <SeedMark state={cell.state} />
                <Small className="text-xs text-ink">{STATE_WORDS[cell.state]}</Small>
              </View>
            </Link>
          </View>
        );
      })}
    </View>
  );
}

function WideBoard({ board }: { board: Board }) {
  return (
    <ScrollView horizontal tabIndex={0}>
      <View role="table" aria-label="Families against programs" className="border border-edge bg-drawer">
        <View role="row" className="flex-row bg-tab">
          <View role="columnheader" className="w-56 justify-end px-3 py-2">
            <Small className="text-ink">Family</Small>
          </View>
          {board.programs.map((program) => (
            <View key={program.id} role="columnheader" className="w-32 border-l border-edge px-2 py-2">
              <Strong className="text-sm">{program.name}</Strong>
              <Small className="text-xs">{program.deviceName}</Small>
            </View>
          ))}
        </View>
        {board.rows.map((row) => (
          <WideRow key={row.familyId} row={row} board={board} />
        ))}
      </View>
    </ScrollView>
  );
}

function PhoneBoard({ board }: { board: Board }) {
  const [chosen, setChosen] = useState(board.programs[0]?.id);
  const index = Math.max(
    0,
    board.programs.findIndex((program) => program.id === chosen),
  );
  return (
    <FlatList
      data={board.rows}
      keyExtractor={(row) => String(row.familyId)}
      contentContainerClassName="px-4 pb-10 pt-4"
      ListHeaderComponent={
        <>
          <Heading title="Sightings" note={count(board.rows.length, "family", "families")} />
          <View className="mb-4 flex-row flex-wrap gap-2" role="group" aria-label="Program">
            {board.programs.map((program) => (
              <Button
                key={program.id}
                label={program.name}
                hint={program.deviceName}
                pressed={program.id === board.programs[index]?.id}
                onPress={() => setChosen(program.id)}
              />
            ))}
          </View>
          <Small className="mb-2">On {board.programs[index]?.deviceName}</Small>
        </>
      }
      renderItem={({ item }) => {
        const cell = item.cells[index]!;
        return (
          <Link href={`/cell/${cell.styleId}/${cell.programId}`} className="-mt-px w-full" testID="cell">
            <View className="min-h-[56px] w-full flex-row items-center justify-between gap-3 border border-edge bg-drawer px-3">
              <Strong lines={1} className="min-w-0 flex-1">
                {item.familyName}
              </Strong>
              <StateMark state={cell.state} />
            </View>
          </Link>
        );
      }}
    />
  );
}

export function SightingsScreen() {
  const answer = useBoard();
  const wide = useWide();
  if (answer.data && answer.data.rows.length > 0 && !wide) {
    return (
      <View className="min-h-0 flex-1 bg-paper" testID="sightings">
        <PhoneBoard board={answer.data} />
      </View>
    );
  }
  return (
    <View className="min-h-0 flex-1 bg-paper" testID="sightings">
      <ScrollView contentContainerClassName="px-4 pb-10 pt-4">
        <Heading title="Sightings" note="Which program was seen offering and drawing which family." />
        <Loaded answer={answer} what="Setting up the board">
          {(board) =>
            board.rows.length === 0 ? (
              <Empty title="No families yet.">
                <Body>
                  Once a family is on the shelf, this board says for every program where it will be listed, and keeps the evidence.
                </Body>
              </Empty>
            ) : (
              <WideBoard board={board} />
            )
          }
        </Loaded>
      </ScrollView>
    </View>
  );
}
