// The board on a wide screen: only what is in view is drawn, in both directions; the names stay in view. Plain elements, as there are thousands.
import { useVirtualizer } from "@tanstack/react-virtual";
import { useRouter, type Href } from "expo-router";
import { memo, useLayoutEffect, useMemo, useRef, useState, type CSSProperties, type MouseEvent } from "react";
import type { Board, BoardQuery, SightingState } from "../../contract/sightings.ts";
import { BOARD_PAGE, useBoard } from "../data/hooks.ts";
import { cellKey } from "../data/board.ts";
import { cellWords, SeedMark, STATE_WORDS } from "../parts/Marks.tsx";
import { usePalette } from "../theme/theme.ts";
import type { Palette } from "../theme/palette";
import { SAY } from "../sentences/parts.ts";

const NAME_WIDTH = 200;
/** Columns share the room there is, within these. */
const COLUMN_LEAST = 116;
const COLUMN_MOST = 220;
const HEADER_HEIGHT = 68;
const ROW_HEIGHT = 58;

type Row = Board["rows"][number];
interface Visible {
  index: number;
  start: number;
}

const STRONG = "15px BuvanoStrong, sans-serif";
const SMALL = "12px BuvanoText, sans-serif";
/** At most so many lines, the rest cut with a mark. */
const lines = (most: number): CSSProperties => ({
  display: "-webkit-box",
  WebkitBoxOrient: "vertical",
  WebkitLineClamp: most,
  overflow: "hidden",
  overflowWrap: "anywhere",
});

/** Each state's mark, drawn once and shown from here wherever it is wanted. */
const Marks = () => (
  <div aria-hidden style={{ position: "absolute", width: 0, height: 0, overflow: "hidden" }}>
    {(Object.keys(STATE_WORDS) as SightingState[]).map((state) => (
      <SeedMark key={state} state={state} id={`mark-${state}`} />
    ))}
  </div>
);

interface RowProps {
  row: Row | undefined;
  /** Its place among all rows, the header's included. */
  place: number;
  top: number;
  columns: readonly Visible[];
  programs: Board["programs"];
  palette: Palette;
  columnWidth: number;
  /** Keys of cells that are chosen; undefined while nobody chooses. */
  chosen: ReadonlySet<string> | undefined;
}
const GridRow = memo(function GridRow({ row, place, top, columns, programs, palette, columnWidth, chosen }: RowProps) {
  const edge = `1px solid ${palette.edge}`;
  const link: CSSProperties = { color: palette.ink, textDecoration: "none", boxSizing: "border-box", height: "100%" };
  // Its part of the board is on its way.
  if (!row)
    return (
      <div
        aria-hidden
        style={{ position: "absolute", top, left: 0, width: "100%", height: ROW_HEIGHT, boxSizing: "border-box", borderTop: edge }}
      />
    );
  return (
    <div
      role="row"
      aria-rowindex={place}
      data-testid="board-row"
      style={{ position: "absolute", top, left: 0, width: "100%", height: ROW_HEIGHT, boxSizing: "border-box", borderTop: edge }}
    >
      <div
        role="rowheader"
        aria-colindex={1}
        style={{ position: "sticky", left: 0, zIndex: 1, width: NAME_WIDTH, height: "100%", background: palette.drawer, borderRight: edge }}
      >
        <a href={`/family/${row.familyId}`} style={{ ...link, display: "flex", alignItems: "center", padding: "0 12px", font: STRONG }}>
          <span style={lines(2)}>{row.name}</span>
        </a>
      </div>
      {columns.map(({ index, start }) => {
        const [cell, program] = [row.cells[index], programs[index]];
        if (!cell || !program) return null;
        const words = SAY.nameInOnDeviceNameCellWords(row.name, program.name, program.deviceName, cellWords(cell));
        return (
          <div
            key={cell.programId}
            role="cell"
            aria-colindex={index + 2}
            style={{
              position: "absolute",
              top: 0,
              left: NAME_WIDTH + start,
              width: columnWidth,
              height: "100%",
              borderRight: edge,
              boxSizing: "border-box",
            }}
          >
            <a
              href={`/cell/${cell.styleId}/${cell.programId}`}
              data-choose={cellKey(cell)}
              role={chosen ? "checkbox" : undefined}
              aria-checked={chosen?.has(cellKey(cell))}
              aria-label={words}
              data-testid="cell"
              style={{
                ...link,
                display: "flex",
                flexDirection: "column",
                alignItems: "center",
                justifyContent: "center",
                gap: 2,
                font: SMALL,
                ...(chosen?.has(cellKey(cell)) ? { background: palette.tab, boxShadow: `inset 0 0 0 2px ${palette.ink}` } : {}),
              }}
            >
              <svg width={24} height={24} aria-hidden>
                <use href={`#mark-${cell.state}`} />
              </svg>
              {cellWords(cell)}
            </a>
          </div>
        );
      })}
    </div>
  );
});

/** One row of the board; its part is fetched when it comes into view. */
function RowAt({ index, query, ...rest }: Omit<RowProps, "row" | "place"> & { index: number; query: Partial<BoardQuery> }) {
  const row = useBoard(query, index).data?.rows[index % BOARD_PAGE];
  return <GridRow row={row} place={index + 2} {...rest} />;
}

interface GridProps extends Pick<RowProps, "chosen"> {
  board: Board;
  query: Partial<BoardQuery>;
  label: string;
}
/** Rows of 58 px and columns that share the room under and beside their names. Links lead to a family, or to a cell. */
export function BoardGrid({ board, query, label, chosen }: GridProps) {
  const palette = usePalette();
  const router = useRouter();
  const view = useRef<HTMLDivElement>(null);
  const [room, setRoom] = useState(0);
  useLayoutEffect(() => {
    const element = view.current;
    if (!element) return;
    const measure = () => setRoom(element.clientWidth - NAME_WIDTH);
    measure();
    const observer = new ResizeObserver(measure);
    observer.observe(element);
    return () => observer.disconnect();
  }, []);
  const share = Math.floor(room / Math.max(1, board.programs.length));
  const columnWidth = Math.min(COLUMN_MOST, Math.max(COLUMN_LEAST, share));
  const common = { getScrollElement: () => view.current, overscan: 4 };
  const rows = useVirtualizer({ ...common, count: board.total, estimateSize: () => ROW_HEIGHT });
  const columns = useVirtualizer({ ...common, horizontal: true, count: board.programs.length, estimateSize: () => columnWidth });
  useLayoutEffect(() => columns.measure(), [columns, columnWidth]);
  const shown = columns.getVirtualItems();
  const range = `${shown[0]?.index}-${shown.at(-1)?.index}-${columnWidth}`;
  // The same columns are the same list, so that rows which stay are not drawn again.
  // eslint-disable-next-line react-hooks/exhaustive-deps
  const visible = useMemo((): Visible[] => shown.map(({ index, start }) => ({ index, start })), [range]);
  const follow = (event: MouseEvent) => {
    const link = (event.target as Element).closest("a");
    if (!link || event.button !== 0 || event.metaKey || event.ctrlKey || event.shiftKey || event.altKey) return;
    event.preventDefault();
    router.push(link.getAttribute("href") as Href);
  };
  const edge = `1px solid ${palette.edge}`;
  const width = NAME_WIDTH + columns.getTotalSize();
  const head: CSSProperties = {
    display: "flex",
    flexDirection: "column",
    justifyContent: "flex-end",
    boxSizing: "border-box",
    height: "100%",
    padding: "8px",
    background: palette.tab,
    borderRight: edge,
  };
  return (
    <div
      ref={view}
      tabIndex={0}
      role="region"
      aria-label={label}
      data-testid="board-grid"
      onClick={follow}
      style={{
        flex: 1,
        minHeight: 0,
        overflow: "auto",
        border: edge,
        background: palette.drawer,
        position: "relative",
        scrollPadding: `${HEADER_HEIGHT}px 0 0 ${NAME_WIDTH}px`,
        contain: "strict",
        maxHeight: HEADER_HEIGHT + rows.getTotalSize() + 16,
      }}
    >
      <Marks />
      <div
        role="table"
        aria-label={label}
        aria-rowcount={board.total + 1}
        aria-colcount={board.programs.length + 1}
        style={{ position: "relative", width, height: HEADER_HEIGHT + rows.getTotalSize() }}
      >
        <div
          role="row"
          aria-rowindex={1}
          style={{ position: "sticky", top: 0, zIndex: 2, width, height: HEADER_HEIGHT, background: palette.tab }}
        >
          <div
            role="columnheader"
            aria-colindex={1}
            style={{ ...head, position: "sticky", left: 0, zIndex: 1, width: NAME_WIDTH, font: SMALL, color: palette.ink }}
          >
            {query.by === "styles" ? SAY.style : SAY.family}
          </div>
          {visible.map(({ index, start }) => {
            const program = board.programs[index];
            if (!program) return null;
            return (
              <div
                key={program.id}
                role="columnheader"
                aria-colindex={index + 2}
                style={{ ...head, position: "absolute", top: 0, left: NAME_WIDTH + start, width: columnWidth, color: palette.ink }}
              >
                <div style={{ ...lines(2), font: STRONG }}>{program.name}</div>
                <div style={{ ...lines(1), font: SMALL, color: palette.faded }}>{program.deviceName}</div>
              </div>
            );
          })}
        </div>
        {rows.getVirtualItems().map(({ index, start }) => (
          <RowAt
            key={index}
            index={index}
            query={query}
            top={HEADER_HEIGHT + start}
            columns={visible}
            programs={board.programs}
            palette={palette}
            columnWidth={columnWidth}
            chosen={chosen}
          />
        ))}
      </div>
    </div>
  );
}
