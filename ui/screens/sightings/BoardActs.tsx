// What can be done with several cells of the board: say what was seen there, or place what is not there.
import { useRouter } from "expo-router";
import { useCallback } from "react";
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
  const look = useAction(
    useCallback(
      async (cells: CellKey[], saw: LookRequest["saw"]) => {
        const { sentence, historyId } = await send("POST", "/board/look", LookedMany, { cells, saw, who: who.get() });
        end();
        offerUndo(sentence, () => send("POST", `/history/${historyId}/undo`, Done));
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
