// What is cut, drawn as large as there is room: joined, as the font draws it, or both; what was found is marked, and gone to by a tap.
import { useEffect, useRef, useState, type PointerEvent } from "react";
import { View } from "react-native";
import type { CutFinding } from "../../../core/cutting/findings/kinds.ts";
import type { CutPreview } from "../../../core/cutting/preview.ts";
import type { CutView } from "../../../core/cutting/view.ts";
import { Button } from "../../parts/Button.tsx";
import { ZoomIn, ZoomOut } from "../../parts/icons.ts";
import { usePalette } from "../../theme/theme.ts";
import { useWide } from "../../parts/useWide.ts";
import { SAY } from "../../sentences/cutting/cut.ts";

export type Shown = "joined" | "raw" | "both";
interface Window {
  x: number;
  y: number;
  /** Millimetres across. */
  across: number;
}

interface Props {
  view: CutView;
  /** A first look at what was chosen since, drawn in its place until that is checked. */
  preview: CutPreview | undefined;
  shown: Shown;
  /** One sheet alone; undefined for the stack. */
  only: number | undefined;
  findings: readonly CutFinding[];
  current: CutFinding | undefined;
  /** Where somebody taps, in millimetres. */
  onTap: (x: number, y: number, near: number) => void;
  /** Strips that are proposed as bridges. */
  proposed: boolean;
  label: string;
}

/** Around a place that is gone to, millimetres across. */
const NEAR_MM = 36;
const MOST_ZOOM = 200;

/** An overlap that was joined needs no mark. */
export const isSolved = (view: CutView, one: CutFinding): boolean => one.kind === "overlap" && view.sheets[one.sheet]?.overlapsAfter === 0;

export function CutDrawing({ view, preview, shown, only, findings, current, onTap, proposed, label }: Props) {
  const palette = usePalette();
  const wide = useWide();
  const { left, top, right, bottom } = preview?.box ?? view.box;
  const spare = Math.max(2, (right - left) * 0.03);
  const ratio = Math.min(wide ? 0.5 : 0.8, Math.max(wide ? 0.3 : 0.55, (bottom - top + 2 * spare) / (right - left + 2 * spare)));
  const whole: Window = {
    x: (left + right) / 2,
    y: (top + bottom) / 2,
    across: Math.max(right - left + 2 * spare, (bottom - top + 2 * spare) / ratio),
  };
  const [window, setWindow] = useState<Window>();
  const svg = useRef<SVGSVGElement>(null);
  useEffect(() => {
    if (!current) return;
    setWindow((now) => ({ x: current.x, y: current.y, across: Math.min(now?.across ?? NEAR_MM, NEAR_MM) }));
    svg.current?.scrollIntoView({ block: "nearest" });
  }, [current]);
  const seen = window ?? whole;
  const high = seen.across * ratio;
  const drag = useRef<{ x: number; y: number; from: Window; moved: boolean }>(undefined);
  const aMm = () => seen.across / (svg.current?.clientWidth ?? 1);
  const zoom = (by: number) =>
    setWindow({ ...seen, across: Math.min(whole.across * 1.2, Math.max(whole.across / MOST_ZOOM, seen.across * by)) });
  const down = ({ clientX, clientY }: PointerEvent) => {
    drag.current = { x: clientX, y: clientY, from: seen, moved: false };
  };
  const move = ({ clientX, clientY }: PointerEvent) => {
    const now = drag.current;
    if (!now) return;
    const [dx, dy] = [clientX - now.x, clientY - now.y];
    if (!now.moved && Math.hypot(dx, dy) < 6) return;
    now.moved = true;
    // The whole stays where it is: only a part can be moved about.
    if (window) setWindow({ ...now.from, x: now.from.x - dx * aMm(), y: now.from.y - dy * aMm() });
  };
  const up = ({ clientX, clientY }: PointerEvent) => {
    const now = drag.current;
    drag.current = undefined;
    const box = svg.current?.getBoundingClientRect();
    if (!now || now.moved || !box) return;
    onTap(seen.x - seen.across / 2 + (clientX - box.left) * aMm(), seen.y - high / 2 + (clientY - box.top) * aMm(), 22 * aMm());
  };
  const mark = seen.across / (wide ? 110 : 60);
  return (
    <View>
      <svg
        ref={svg}
        role="img"
        aria-label={label}
        data-testid="cut-drawing"
        viewBox={`${seen.x - seen.across / 2} ${seen.y - high / 2} ${seen.across} ${high}`}
        style={{
          display: "block",
          width: "100%",
          aspectRatio: `1 / ${ratio}`,
          background: "#ffffff",
          border: `1px solid ${palette.edge}`,
          touchAction: window ? "none" : "pan-y",
          cursor: window ? "grab" : "default",
        }}
        onPointerDown={down}
        onPointerMove={move}
        onPointerUp={up}
        onPointerLeave={() => (drag.current = undefined)}
      >
        {preview?.layers.map(({ path, colour }, i) => (
          <path key={i} d={path} fill={colour} fillOpacity={0.9} data-testid="first-look" />
        ))}
        {view.sheets.map((sheet, i) => {
          if (preview) return null;
          if (only !== undefined && only !== i) return null;
          const letters = sheet.kind === "letters";
          return (
            <g key={i} data-testid={`sheet-${i}`}>
              {shown === "raw" ? null : (
                <path
                  d={sheet.path}
                  fill={sheet.colour}
                  fillOpacity={shown === "both" ? 0.35 : 0.9}
                  stroke="#1d1a16"
                  strokeWidth={1}
                  vectorEffect="non-scaling-stroke"
                />
              )}
              {letters && shown !== "joined" ? (
                <path
                  d={sheet.raw}
                  fill={shown === "raw" ? sheet.colour : "none"}
                  fillOpacity={0.25}
                  stroke="#1d1a16"
                  strokeWidth={1}
                  strokeDasharray={shown === "both" ? "4 3" : undefined}
                  vectorEffect="non-scaling-stroke"
                />
              ) : null}
              {letters && (shown !== "joined" || sheet.overlapsAfter > 0) ? (
                <path
                  d={sheet.overlaps}
                  fill="#b4400f"
                  stroke="#b4400f"
                  strokeWidth={2}
                  vectorEffect="non-scaling-stroke"
                  data-testid="overlaps"
                />
              ) : null}
            </g>
          );
        })}
        {preview ? null : <path d={view.marks} fill="#1d1a16" />}
        {proposed && !preview
          ? view.proposed.map(({ path }, i) => <path key={i} d={path} fill="#1b6a5d" fillOpacity={0.7} data-testid="proposed" />)
          : null}
        {(preview ? [] : findings).map((one, i) =>
          one !== current && ((only !== undefined && only !== one.sheet) || (shown === "joined" && isSolved(view, one))) ? null : (
            <circle
              key={i}
              cx={one.x}
              cy={one.y}
              r={one === current ? mark * 1.6 : mark * 0.8}
              fill={one === current ? "none" : "#ffffff"}
              fillOpacity={0.7}
              stroke="#8a1d0f"
              strokeWidth={one === current ? 3 : 1.5}
              vectorEffect="non-scaling-stroke"
            />
          ),
        )}
      </svg>
      <View className="mt-2 flex-row flex-wrap gap-2">
        <Button label={SAY.zoomIn} icon={ZoomIn} onPress={() => zoom(0.6)} testID="zoom-in" />
        <Button label={SAY.zoomOut} icon={ZoomOut} onPress={() => zoom(1 / 0.6)} disabled={!window} testID="zoom-out" />
        <Button label={SAY.showAll} onPress={() => setWindow(undefined)} disabled={!window} testID="zoom-all" />
      </View>
    </View>
  );
}
