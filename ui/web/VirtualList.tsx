// A list of very many rows of one height, below whatever stands above it: only the rows in view exist. Plain elements, as thousands pass by.
import { useVirtualizer } from "@tanstack/react-virtual";
import { useLayoutEffect, useRef, useState, type ReactNode } from "react";

interface Props {
  count: number;
  /** Of each row, in pixels. */
  rowHeight: number;
  /** Widest it gets, in pixels; it stands in the middle. */
  mostWide: number;
  header: ReactNode;
  /** Shown in place of rows when there are none, and below the last one. */
  empty?: ReactNode;
  footer?: ReactNode;
  render: (index: number) => ReactNode;
}

/** Rows drawn beyond those in view. */
const BEYOND = 4;

export function VirtualList({ count, rowHeight, mostWide, header, empty, footer, render }: Props) {
  const scroller = useRef<HTMLDivElement>(null);
  const above = useRef<HTMLDivElement>(null);
  // How far down the rows begin: what stands above may grow and shrink.
  const [top, setTop] = useState(0);
  useLayoutEffect(() => {
    const element = above.current;
    if (!element) return;
    const measure = () => setTop(element.offsetHeight);
    measure();
    const observer = new ResizeObserver(measure);
    observer.observe(element);
    return () => observer.disconnect();
  }, []);
  const rows = useVirtualizer({
    count,
    getScrollElement: () => scroller.current,
    estimateSize: () => rowHeight,
    overscan: BEYOND,
    scrollMargin: top,
  });
  // A list of another row height is another list.
  useLayoutEffect(() => rows.measure(), [rows, rowHeight]);
  return (
    <div ref={scroller} style={{ flex: "1 1 0", minHeight: 0, overflowY: "auto", position: "relative" }}>
      <div style={{ maxWidth: mostWide, margin: "0 auto", padding: "0 16px 40px", boxSizing: "border-box" }}>
        <div ref={above} style={{ display: "flow-root" }}>
          {header}
        </div>
        {count === 0 ? empty : null}
        <div style={{ position: "relative", height: rows.getTotalSize() }}>
          {rows.getVirtualItems().map(({ key, index, start }) => (
            <div
              key={key}
              style={{ position: "absolute", left: 0, width: "100%", height: rowHeight, transform: `translateY(${start - top}px)` }}
            >
              {render(index)}
            </div>
          ))}
        </div>
        {footer}
      </div>
    </div>
  );
}
