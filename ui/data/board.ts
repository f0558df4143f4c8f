// What the board is narrowed to, as it was left; the address says the same.
import { z } from "zod";
import { BoardBy, SightingState, type BoardQuery, type CellKey } from "../../contract/sightings.ts";
import { makeStore } from "./store.ts";

const number = z.coerce.number().int().min(0).optional().catch(undefined);
const BoardFilter = z.object({
  by: BoardBy.catch("families"),
  device: number,
  job: number,
  state: SightingState.optional().catch(undefined),
  program: number,
});
export type BoardFilter = z.infer<typeof BoardFilter>;
export const WHOLE_BOARD: BoardFilter = BoardFilter.parse({ by: "families" });

/** What an address asks for; undefined when it asks for nothing. */
export function filterOf(params: Record<string, unknown>): BoardFilter | undefined {
  const filter = BoardFilter.parse({ by: "families", ...params });
  return JSON.stringify(filter) === JSON.stringify(WHOLE_BOARD) ? undefined : filter;
}
export const boardParams = ({ by, device, job, state, program }: BoardFilter): Record<keyof BoardFilter, string | undefined> => ({
  by: by === "families" ? undefined : by,
  device: device?.toString(),
  job: job?.toString(),
  state,
  program: program?.toString(),
});
export const boardQuery = ({ program: _, ...filter }: BoardFilter): Partial<BoardQuery> => filter;

const filter = makeStore<BoardFilter>(WHOLE_BOARD, "buvano.board", "tab");
export const useBoardFilter = (): [BoardFilter, (filter: BoardFilter) => void] => [filter.use(), filter.set];
export const beginBoard = (asked: BoardFilter): void => filter.set(asked);

export const cellKey = ({ styleId, programId }: CellKey): string => `${styleId}/${programId}`;
export const cellOf = (key: string): CellKey => {
  const [styleId = 0, programId = 0] = key.split("/").map(Number);
  return { styleId, programId };
};
