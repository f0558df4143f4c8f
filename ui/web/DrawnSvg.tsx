// Drawn lines and glyphs as SVG of the page itself.
import { useMemo, type ReactNode } from "react";
import type { BenchLayer } from "../../contract/bench.ts";
import type { DrawnGlyph, DrawnGlyphs, DrawnLayer, DrawnLine } from "../../core/bench/drawing.ts";

const url = (png: Uint8Array): string => {
  let text = "";
  for (let i = 0; i < png.length; i += 8192) text += String.fromCharCode(...png.subarray(i, i + 8192));
  return `data:image/png;base64,${btoa(text)}`;
};

/** A shadow is drawn as copies so close that no step shows. */
const SHADOW_STEP_MM = 0.2;
const MOST_COPIES = 80;

function Letters({ layer, drawn }: { layer: BenchLayer; drawn: DrawnLayer }) {
  return (
    <>
      {drawn.path === "" ? null : <path d={drawn.path} />}
      {drawn.coloured.map(({ path, colour }, i) => (
        <path key={i} d={path} fill={colour ?? layer.colour} />
      ))}
      {drawn.pictures.map(({ x, y, width, height, png }, i) => (
        <image key={`p${i}`} x={x} y={y} width={width} height={height} href={url(png)} />
      ))}
    </>
  );
}

/** `unitMm`: millimetres a font unit. */
function Layer({ layer, drawn, unitMm }: { layer: BenchLayer; drawn: DrawnLayer; unitMm: number }) {
  const { made, colour } = layer;
  const letters = <Letters layer={layer} drawn={drawn} />;
  const move = `translate(${(layer.dx * drawn.upem) / 1000} ${(-layer.dy * drawn.upem) / 1000})`;
  let content: ReactNode = letters;
  if (made.kind === "contour") {
    content = (
      <g stroke={colour} strokeWidth={(2 * made.mm) / unitMm} strokeLinejoin="round">
        {letters}
      </g>
    );
  } else if (made.kind === "shadow") {
    const copies = Math.max(1, Math.min(MOST_COPIES, Math.ceil(made.mm / SHADOW_STEP_MM)));
    const angle = (made.degrees * Math.PI) / 180;
    content = Array.from({ length: copies }, (_, i) => {
      const far = ((i + 1) / copies) * (made.mm / unitMm);
      return (
        <g key={i} transform={`translate(${far * Math.cos(angle)} ${-far * Math.sin(angle)})`}>
          {letters}
        </g>
      );
    });
  }
  return (
    <g fill={colour} transform={move}>
      {content}
      {drawn.standIns.map(({ x, y, text, advance }, i) => (
        <g key={i} opacity={0.7}>
          <text
            x={x}
            y={y}
            fontSize={drawn.upem * 0.8}
            textLength={advance}
            lengthAdjust="spacingAndGlyphs"
            fontFamily="BuvanoText, sans-serif"
          >
            {text}
          </text>
          <path
            d={`M${x} ${y + drawn.upem * 0.12}h${advance}`}
            stroke={colour}
            strokeWidth={drawn.upem / 50}
            strokeDasharray={drawn.upem / 16}
          />
        </g>
      ))}
    </g>
  );
}

interface Props {
  layers: readonly BenchLayer[];
  drawn: DrawnLine;
  /** An em in millimetres, and CSS pixels a millimetre. */
  emMm: number;
  scale: number;
  label: string;
  /** Where features change something is underlined. */
  marks?: boolean;
}

/** Room above, below and at the sides for what reaches beyond its own box, in ems. */
const SPARE = 0.12;

/** Width and height of a drawn line in millimetres. */
export function extentMm(drawn: DrawnLine, emMm: number): { width: number; height: number; top: number } {
  let [width, above, below] = [0, 0, 0];
  for (const layer of drawn.layers) {
    if (!layer) continue;
    const mm = emMm / layer.upem;
    const last = layer.lines.at(-1)?.baseline ?? 0;
    width = Math.max(width, layer.width * mm);
    above = Math.max(above, layer.ascent * mm);
    below = Math.max(below, (last + layer.descent) * mm);
  }
  const spare = SPARE * emMm;
  return { width: width + 2 * spare, height: above + below + 2 * spare, top: above + spare };
}

export function DrawnSvg({ layers, drawn, emMm, scale, label, marks }: Props) {
  const { width, height, top } = extentMm(drawn, emMm);
  return (
    <svg
      role="img"
      aria-label={label}
      width={width * scale}
      height={height * scale}
      viewBox={`${-SPARE * emMm} ${-top} ${width} ${height}`}
      style={{ display: "block", overflow: "visible" }}
    >
      {drawn.layers.map((one, i) => {
        const layer = layers[i];
        if (!one || !layer) return null;
        const unitMm = emMm / one.upem;
        return (
          <g key={i} transform={`scale(${unitMm})`}>
            <Layer layer={layer} drawn={one} unitMm={unitMm} />
            {marks
              ? one.changed.map(({ x, width: across, baseline }, k) => (
                  <path key={k} d={`M${x} ${baseline + one.upem * 0.16}h${across}`} stroke="#1b6a5d" strokeWidth={one.upem / 24} />
                ))
              : null}
          </g>
        );
      })}
    </svg>
  );
}

export function GlyphSvg({
  font,
  glyph,
  size,
  colour,
  label,
}: {
  font: DrawnGlyphs;
  glyph: DrawnGlyph;
  size: number;
  colour: string;
  label?: string;
}) {
  const picture = useMemo(() => (glyph.png ? url(glyph.png) : undefined), [glyph.png]);
  const high = Math.max(font.ascent + font.descent, font.upem);
  const wide = Math.max(glyph.advance, font.upem * 0.2, picture ? font.upem : 0);
  const box = Math.max(high, wide);
  const view = `${(wide - box) / 2} ${-font.ascent - (box - font.ascent - font.descent) / 2} ${box} ${box}`;
  return (
    <svg
      role={label ? "img" : undefined}
      aria-label={label}
      aria-hidden={label ? undefined : true}
      width={size}
      height={size}
      viewBox={view}
      fill={colour}
      style={{ overflow: "visible" }}
    >
      {picture ? <image x={0} y={-font.upem * 0.8} width={font.upem} height={font.upem} href={picture} /> : null}
      {!picture && glyph.path !== "" ? <path d={glyph.path} /> : null}
      {picture ? null : glyph.coloured.map((one, i) => <path key={i} d={one.path} fill={one.colour ?? colour} />)}
    </svg>
  );
}
