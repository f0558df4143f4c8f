// What can be done with several cells of the board: say what was seen there, or place what is not there.
import { useRouter } from "expo-router";
import { useCallback, useState } from "react";
import { View } from "react-native";
import { MOST_CHECKED } from "../../../contract/quick-check.ts";
import { LookedMany, type Board, type CellKey, type LookRequest } from "../../../contract/sightings.ts";
import { Done, send } from "../../data/api.ts";
import { cellOf } from "../../data/board.ts";
import type { Choosing } from "../../data/choosing.ts";
import { who } from "../../data/who.ts";
import { offerUndo } from "../../data/undo.ts";
import { useAction } from "../../data/useAction.ts";
import { Button } from "../../parts/Button.tsx";
import { ChooseBar } from "../../parts/ChooseBar.tsx";
import { FileCheck, MonitorUp } from "../../parts/icons.ts";
import { ApiProblemNote } from "../../parts/Status.tsx";
import { Body } from "../../parts/Text.tsx";
import { usePlanning } from "../placing/planning.ts";
import { SAY } from "../../sentences/sightings/sightings.ts";

interface Props {
  choosing: Choosing;
  board: Board;
  /** All that fit: how many, and how they are chosen. */
  all: { label: string; onPress: () => void } | undefined;
}

export function BoardActs({ choosing, board, all }: Props) {
  const { chosen, end } = choosing;
  const router = useRouter();
  /** Cells that were left out, because what is known of their devices speaks against it. */
  const [doubted, setDoubted] = useState<LookedMany>();
  const look = useAction(
    useCallback(
      async (cells: CellKey[], saw: LookRequest["saw"], despite: LookRequest["despite"] = "") => {
        setDoubted(undefined);
        const looked = await send("POST", "/board/look", LookedMany, { cells, saw, who: who.get(), despite });
        const { sentence, historyId } = looked;
        if (historyId !== null) offerUndo(sentence, () => send("POST", `/history/${historyId}/undo`, Done));
        if (looked.doubted.length > 0) setDoubted(looked);
        else end();
      },
      [end],
    ),
  );
  const place = usePlanning();
  if (!chosen) return null;
  const cells = [...chosen.keys].map(cellOf);
  const deviceOf = new Map(board.programs.map((program) => [program.id, program]));
  const devices = new Map(
    cells.flatMap(({ programId }) => {
      const program = deviceOf.get(programId);
      return program ? [[program.deviceId, program.deviceName] as const] : [];
    }),
  );
  const programs = new Set(cells.map(({ programId }) => programId));
  const none = cells.length === 0;
  const busy = look.busy || place.busy;
  const problem = look.problem ?? place.problem;
  return (
    <ChooseBar words={none ? SAY.chooseCells : SAY.cellsChosen(cells.length)} all={all} onEnd={end}>
      {problem ? <ApiProblemNote problem={problem} /> : null}
      {doubted ? (
        <View className="w-full items-start gap-2" role="status" testID="cells-doubt">
          <Body>{SAY.notNotedBecause(doubted.doubted.length, doubted.question)}</Body>
          <Button label={SAY.seenAnyway} busy={busy} onPress={() => look.run(doubted.doubted, "there", "sure")} testID="cells-sure" />
        </View>
      ) : null}
      <Button strong label={SAY.seenThere} disabled={none || busy} onPress={() => look.run(cells, "there")} testID="cells-seen" />
      <Button label={SAY.notListed} disabled={none || busy} onPress={() => look.run(cells, "not-there")} testID="cells-not-there" />
      {programs.size === 1 && cells.length <= MOST_CHECKED ? (
        <Button
          icon={FileCheck}
          label={SAY.checkThem}
          hint={SAY.onePageForWhatIs}
          disabled={busy}
          onPress={() => router.push(`/check?program=${[...programs][0]!}&styles=${cells.map(({ styleId }) => styleId).join()}`)}
          testID="cells-check"
        />
      ) : null}
      {[...devices].map(([deviceId, name]) => (
        <Button
          key={deviceId}
          icon={MonitorUp}
          label={SAY.placeOnName(name)}
          disabled={busy}
          onPress={() => {
            const there = cells.filter(({ programId }) => deviceOf.get(programId)?.deviceId === deviceId);
            const styleIds = [...new Set(there.map((cell) => cell.styleId))];
            place.run({ deviceId, action: "place", account: "me", styleIds, familyIds: [] });
          }}
          testID={`cells-place-${name}`}
        />
      ))}
    </ChooseBar>
  );
}
