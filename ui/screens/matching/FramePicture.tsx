// The picture with its frame: drawn anew, drawn by its corners, or brushed over. By touch, by mouse, by arrow keys.
import { useRef, useState, type KeyboardEvent, type PointerEvent } from "react";
import type { MatchAsked } from "../../../contract/matching.ts";
import type { Corner, Frame } from "../../data/match.ts";
import { usePalette } from "../../theme/theme.ts";
import { SAY } from "../../sentences/matching/match.ts";

export type Tool = "frame" | "corners" | "brush" | "colour";
const CORNER_WORDS = [SAY.leftTop, SAY.rightTop, SAY.rightBottom, SAY.leftBottom] as const;
/** What a finger covers, in pixels of the screen. */
const GRIP_PX = 44;
const BRUSH_PX = 14;

interface Props {
  url: string;
  width: number;
  height: number;
  lines: readonly Frame[];
  asked: MatchAsked;
  tool: Tool;
  onChange: (part: Partial<MatchAsked>) => void;
  onColour: (colour: string) => void;
}

const path = (frame: Frame): string => `M${frame.map(([x, y]) => `${x} ${y}`).join("L")}Z`;
const rectangle = ([ax, ay]: Corner, [bx, by]: Corner): Frame => {
  const [x0, x1, y0, y1] = [Math.min(ax, bx), Math.max(ax, bx), Math.min(ay, by), Math.max(ay, by)];
  return [
    [x0, y0],
    [x1, y0],
    [x1, y1],
    [x0, y1],
  ];
};
/** Where a corner is moved to: alone, or with its neighbours so that a rectangle stays one. */
function moved(frame: Frame, at: number, to: Corner, tool: Tool): Frame {
  if (tool !== "frame") return frame.map((corner, i) => (i === at ? to : corner)) as Frame;
  return rectangle(frame[(at + 2) % 4]!, to);
}

type Going = { kind: "corner"; at: number } | { kind: "new"; from: Corner } | { kind: "stroke" };

export function FramePicture({ url, width, height, lines, asked, tool, onChange, onColour }: Props) {
  const palette = usePalette();
  const svg = useRef<SVGSVGElement>(null);
  const going = useRef<Going>(undefined);
  const [draft, setDraft] = useState<{ frame?: Frame; stroke?: Corner[] }>({});
  const frame = draft.frame ?? asked.frame;
  /** Pixels of the picture for one of the screen. */
  const scale = () => width / (svg.current?.getBoundingClientRect().width || width);
  const place = (event: PointerEvent): Corner => {
    const box = svg.current!.getBoundingClientRect();
    const clip = (value: number, most: number) => Math.round(Math.max(0, Math.min(most, value)));
    return [clip(((event.clientX - box.left) / box.width) * width, width), clip(((event.clientY - box.top) / box.height) * height, height)];
  };
  const down = (event: PointerEvent<SVGSVGElement>) => {
    const at = place(event);
    if (tool === "colour") {
      void colourAt(url, at, width, height).then((colour) => colour && onColour(colour));
      return;
    }
    event.currentTarget.setPointerCapture(event.pointerId);
    if (tool === "brush") {
      going.current = { kind: "stroke" };
      setDraft({ stroke: [at] });
      return;
    }
    const reach = (GRIP_PX / 2) * scale();
    const near = frame.map(([x, y], i) => ({ i, far: Math.hypot(x - at[0], y - at[1]) })).sort((a, b) => a.far - b.far)[0]!;
    if (near.far <= reach * 1.2 || tool === "corners") going.current = { kind: "corner", at: near.i };
    else going.current = { kind: "new", from: at };
  };
  const move = (event: PointerEvent) => {
    const now = going.current;
    if (!now) return;
    const at = place(event);
    if (now.kind === "stroke") setDraft(({ stroke = [] }) => ({ stroke: [...stroke, at].slice(-400) }));
    else if (now.kind === "corner")
      setDraft(({ frame: before }) => ({
        frame: before ? moved(before, cornerNear(before, now, asked.frame), at, tool) : moved(asked.frame, now.at, at, tool),
      }));
    else setDraft({ frame: rectangle(now.from, at) });
  };
  const up = () => {
    const now = going.current;
    going.current = undefined;
    if (!now) return;
    if (now.kind === "stroke" && draft.stroke)
      onChange({ strokes: [...asked.strokes, { points: draft.stroke, radius: BRUSH_PX * scale() }].slice(-60) });
    else if (draft.frame) {
      const [a, , c] = draft.frame;
      const large = Math.hypot(a[0] - c[0], a[1] - c[1]) > 12 * scale();
      // A tap is no frame: it chooses the line it falls in.
      if (now.kind !== "new" || large) onChange({ frame: draft.frame });
      else tapped(now.from);
    } else if (now.kind === "new") tapped(now.from);
    setDraft({});
  };
  const tapped = ([x, y]: Corner) => {
    const line = lines.find((one) => inside(one, x, y));
    if (line) onChange({ frame: line });
  };
  const key = (event: KeyboardEvent, at: number) => {
    const step = (event.shiftKey ? 10 : 1) * Math.max(1, Math.round(scale()));
    const by = (
      { ArrowLeft: [-step, 0], ArrowRight: [step, 0], ArrowUp: [0, -step], ArrowDown: [0, step] } as Record<string, [number, number]>
    )[event.key];
    if (!by) return;
    event.preventDefault();
    const [x, y] = frame[at]!;
    const to: Corner = [Math.max(0, Math.min(width, x + by[0])), Math.max(0, Math.min(height, y + by[1]))];
    onChange({ frame: moved(frame, at, to, tool) });
  };
  const unit = width / 360;
  const drawing = tool === "frame" || tool === "corners";
  return (
    <svg
      ref={svg}
      data-testid="match-picture"
      role="group"
      aria-label={SAY.thePictureWithItsFrame}
      viewBox={`0 0 ${width} ${height}`}
      onPointerDown={down}
      onPointerMove={move}
      onPointerUp={up}
      onPointerCancel={() => {
        going.current = undefined;
        setDraft({});
      }}
      style={{
        width: "100%",
        aspectRatio: `${width} / ${height}`,
        maxHeight: "52vh",
        display: "block",
        touchAction: "none",
        cursor: tool === "brush" ? "cell" : "crosshair",
        background: palette.tab,
      }}
    >
      <image href={url} width={width} height={height} />
      {lines.map((line, i) => (
        <path
          key={i}
          d={path(line)}
          fill="none"
          stroke="#ffffff"
          strokeOpacity={0.9}
          strokeWidth={1.2 * unit}
          strokeDasharray={`${4 * unit} ${3 * unit}`}
          data-testid="match-line"
        />
      ))}
      {lines.map((line, i) => (
        <path key={i} d={path(line)} fill="none" stroke="#1d1a16" strokeWidth={0.6 * unit} strokeDasharray={`${4 * unit} ${3 * unit}`} />
      ))}
      {[...asked.strokes, ...(draft.stroke ? [{ points: draft.stroke, radius: BRUSH_PX * scale() }] : [])].map(({ points, radius }, i) => (
        <polyline
          key={i}
          points={
            points.map((point) => point.join(",")).join(" ") + (points.length === 1 ? ` ${points[0]![0] + 0.1},${points[0]![1]}` : "")
          }
          fill="none"
          stroke={palette.paper}
          strokeOpacity={0.85}
          strokeWidth={2 * radius}
          strokeLinecap="round"
          strokeLinejoin="round"
        />
      ))}
      <path d={path(frame)} fill="none" stroke="#1d1a16" strokeWidth={3.2 * unit} />
      <path d={path(frame)} fill="none" stroke={palette.persimmon} strokeWidth={1.8 * unit} data-testid="match-frame" />
      {drawing
        ? frame.map(([x, y], i) => (
            <g
              key={i}
              role="button"
              tabIndex={0}
              aria-label={SAY.cornerWordsCornerAtXY(CORNER_WORDS[i], x, y)}
              onKeyDown={(event) => key(event, i)}
              data-testid={`corner-${i}`}
            >
              <circle cx={x} cy={y} r={22.2 * unit} fill="transparent" />
              <rect
                x={x - 5 * unit}
                y={y - 5 * unit}
                width={10 * unit}
                height={10 * unit}
                fill="#fffdf8"
                stroke="#1d1a16"
                strokeWidth={1.4 * unit}
              />
            </g>
          ))
        : null}
    </svg>
  );
}

/** The corner that is being moved keeps its number while a rectangle is turned over its own side. */
function cornerNear(before: Frame, going: { at: number }, first: Frame): number {
  const opposite = first[(going.at + 2) % 4]!;
  const fixed = before.findIndex(([x, y]) => x === opposite[0] && y === opposite[1]);
  return fixed < 0 ? going.at : (fixed + 2) % 4;
}

function inside(frame: Frame, x: number, y: number): boolean {
  let odd = false;
  for (let i = 0, last = 3; i < 4; last = i++) {
    const [[ax, ay], [bx, by]] = [frame[last]!, frame[i]!];
    if (ay > y !== by > y && x < ax + ((y - ay) / (by - ay)) * (bx - ax)) odd = !odd;
  }
  return odd;
}

/** The colour around a place, the middle of nine pixels. */
async function colourAt(url: string, [x, y]: Corner, width: number, height: number): Promise<string | undefined> {
  const image = new Image();
  image.src = url;
  await image.decode();
  const canvas = document.createElement("canvas");
  [canvas.width, canvas.height] = [3, 3];
  const context = canvas.getContext("2d");
  if (!context) return undefined;
  const [sx, sy] = [image.naturalWidth / width, image.naturalHeight / height];
  context.drawImage(image, (x - 1) * sx, (y - 1) * sy, 3 * sx, 3 * sy, 0, 0, 3, 3);
  const { data } = context.getImageData(0, 0, 3, 3);
  const middle = (c: number) => Array.from({ length: 9 }, (_, i) => data[4 * i + c]!).sort((a, b) => a - b)[4]!;
  return `#${[0, 1, 2].map((c) => middle(c).toString(16).padStart(2, "0")).join("")}`;
}
