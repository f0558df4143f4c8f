// A style in the list of all of them, as elements of the page itself: thousands of them pass by under a thumb.
import type { ReactNode } from "react";
import { usePalette } from "../theme/theme.ts";

interface Props {
  name: string;
  /** Beside the name; "" for nothing. */
  note: string;
  /** Height of the drawn words in pixels. */
  high: number;
  /** Pinned or not; undefined when a press takes the style at once. */
  pinned: boolean | undefined;
  onPress: () => void;
  children: ReactNode;
}

/** Words drawn at so many pixels have this much room; a row with its name and the gap below it. */
export const roomFor = (px: number): number => Math.round(px * 1.5);
export const rowHeight = (px: number): number => roomFor(px) + 50;

export function StyleCell({ name, note, high, pinned, onPress, children }: Props) {
  const { ink, faded, edge, drawer } = usePalette();
  return (
    <button
      type="button"
      role={pinned === undefined ? undefined : "checkbox"}
      aria-checked={pinned}
      aria-label={note === "" ? name : `${name}, ${note}`}
      data-testid="style-row"
      onClick={onPress}
      style={{
        display: "block",
        width: "100%",
        height: high + 42,
        boxSizing: "border-box",
        padding: "8px 12px",
        textAlign: "left",
        cursor: "pointer",
        border: `1px solid ${pinned ? ink : edge}`,
        background: drawer,
        color: ink,
      }}
    >
      <div aria-hidden style={{ height: high, overflow: "hidden", display: "flex", alignItems: "center" }}>
        {children}
      </div>
      <div style={{ display: "flex", alignItems: "center", gap: 8, height: 24, font: "16px BuvanoStrong, sans-serif" }}>
        {pinned === undefined ? null : (
          <span
            style={{
              boxSizing: "border-box",
              width: 20,
              height: 20,
              padding: 3,
              border: `2px solid ${pinned ? ink : faded}`,
              flex: "none",
            }}
          >
            {pinned ? <span style={{ display: "block", width: 10, height: 10, background: ink }} /> : null}
          </span>
        )}
        <span style={{ flex: "1 1 0", minWidth: 0, overflow: "hidden", textOverflow: "ellipsis", whiteSpace: "nowrap" }}>{name}</span>
        {note === "" ? null : <span style={{ font: "14px BuvanoText, sans-serif", color: faded }}>{note}</span>}
      </div>
    </button>
  );
}
