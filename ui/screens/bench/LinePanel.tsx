// Everything that can be set on a line, below it.
import { useState } from "react";
import { View } from "react-native";
import { plainLayer, type BenchLine, type StyleFacts } from "../../../contract/bench.ts";
import { tooLongWords } from "../../../core/words/words.ts";
import { MOST_TEXT, UNIT_MM, type Direction, type SizeOf, type Unit } from "../../../core/bench/line.ts";
import { styleKey, styleName } from "../../data/bench.ts";
import { Button } from "../../parts/Button.tsx";
import { Choice } from "../../parts/Choice.tsx";
import { Field } from "../../parts/Field.tsx";
import { Small } from "../../parts/Text.tsx";
import { LayerPanel, NumberField } from "./LayerPanel.tsx";
import { SAY } from "../../sentences/bench/bench.ts";

const OF: Record<SizeOf, string> = { em: SAY.emAsProgramsCount, small: SAY.heightOfSmallLetters, capitals: SAY.heightOfCapitals };
const UNITS: Record<Unit, string> = { mm: "mm", pt: "pt", px: "px" };
const DIRECTION: Record<Direction, string> = { auto: SAY.directionByTheText, ltr: SAY.leftToRight, rtl: SAY.rightToLeft };

interface Props {
  sheetId: number;
  line: BenchLine;
  ground: string;
  facts: (style: { sha256: string; face: number }) => StyleFacts | undefined;
  onChange: (change: (line: BenchLine) => BenchLine) => void;
  onLeave: () => Promise<void>;
}

export function LinePanel({ sheetId, line, ground, facts, onChange, onLeave }: Props) {
  const [shown, setShown] = useState(line.layers.length - 1);
  const current = Math.min(shown, line.layers.length - 1);
  const set = (part: Partial<BenchLine>) => onChange((one) => ({ ...one, ...part }));
  const { size } = line;
  return (
    <View className="border-t border-edge p-3" testID="line-panel">
      <Field
        label={SAY.words}
        value={line.text}
        onChange={(text) => set({ text: text.slice(0, MOST_TEXT) })}
        lines={2}
        hint={line.text.length > MOST_TEXT - 200 ? tooLongWords(MOST_TEXT) : undefined}
        testID="line-text"
      />
      <View className="flex-row items-end gap-2">
        <NumberField
          label={SAY.size}
          value={size.value}
          least={0.1}
          most={20_000}
          onChange={(value) => set({ size: { ...size, value } })}
          testID="size"
        />
        <View className="mb-3">
          <Choice
            label={SAY.unit}
            words={UNITS}
            value={size.unit}
            onChange={(unit) => unit && set({ size: { ...size, unit } })}
            testID="unit"
          />
        </View>
      </View>
      <View className="mb-3 flex-row">
        <Choice
          label={SAY.sizeOf}
          words={OF}
          value={size.of}
          onChange={(of) => of && set({ size: { ...size, of } })}
          grow
          testID="size-of"
        />
      </View>
      <View className="flex-row gap-3">
        <NumberField
          label={SAY.betweenLetters11000Em}
          value={line.letterSpacing}
          least={-500}
          most={5000}
          onChange={(letterSpacing) => set({ letterSpacing })}
          testID="letter-spacing"
        />
        <NumberField
          label={SAY.betweenLines}
          value={line.lineSpacing / 10}
          least={30}
          most={500}
          onChange={(percent) => set({ lineSpacing: Math.round(percent * 10) })}
          testID="line-spacing"
        />
      </View>
      <View className="mb-3 flex-row flex-wrap gap-2">
        <Choice
          label={SAY.direction}
          words={DIRECTION}
          value={line.direction}
          onChange={(direction) => direction && set({ direction })}
          testID="direction"
        />
      </View>
      <View className="mb-2 flex-row flex-wrap items-center gap-2" role="group" aria-label={SAY.layers}>
        {line.layers.length > 1
          ? line.layers.map((_, i) => (
              <Button
                key={i}
                label={i === 0 ? SAY.lowestLayer : i === line.layers.length - 1 ? SAY.topLayer : SAY.layer(i)}
                pressed={i === current}
                onPress={() => setShown(i)}
                testID={`layer-${i}`}
              />
            ))
          : null}
        {(facts(line.layers.at(-1)!.style)?.layers ?? [])
          .filter((style) => !line.layers.some((layer) => styleKey(layer.style) === styleKey(style)))
          .map((style) => (
            <Button
              key={styleKey(style)}
              label={SAY.layItOverStyleName(styleName(style))}
              onPress={() => {
                onChange((one) => ({ ...one, layers: [plainLayer(style, "#d9a514"), ...one.layers] }));
                setShown(0);
              }}
              testID="lay-over"
            />
          ))}
        <Button
          label={SAY.addALayerBelow}
          onPress={() => {
            onChange((one) => ({ ...one, layers: [plainLayer(one.layers[0]!.style, "#d9a514"), ...one.layers] }));
            setShown(0);
          }}
          disabled={line.layers.length >= 8}
          testID="add-layer"
        />
        {line.layers.length > 1 ? (
          <Button
            label={SAY.bringItForward}
            disabled={current === line.layers.length - 1}
            onPress={() => {
              onChange((one) => {
                const layers = [...one.layers];
                layers.splice(current + 1, 0, ...layers.splice(current, 1));
                return { ...one, layers };
              });
              setShown(current + 1);
            }}
            testID="layer-forward"
          />
        ) : null}
      </View>
      {line.layers.length > 1 ? <Small className="mb-2">{SAY.aFaceAndItsShade}</Small> : null}
      {facts(line.layers[current]!.style)?.capitals ? (
        <View className="mb-2" testID="capitals-note">
          <Small className="text-ink">{facts(line.layers[current]!.style)!.capitals}</Small>
          <View className="mt-1 flex-row flex-wrap gap-2">
            <Button label={SAY.writeItInCapitals} onPress={() => set({ text: line.text.toLocaleUpperCase() })} testID="in-capitals" />
            <Button label={SAY.inSmallLetters} onPress={() => set({ text: line.text.toLocaleLowerCase() })} testID="in-small" />
          </View>
        </View>
      ) : null}
      <LayerPanel
        key={current}
        layer={line.layers[current]!}
        facts={facts(line.layers[current]!.style)}
        pickHref={`/bench/pick?sheet=${sheetId}&line=${line.id}&layer=${current}`}
        many={line.layers.length > 1}
        ground={ground}
        emMm={size.value * UNIT_MM[size.unit]}
        onChange={(change) =>
          onChange((one) => ({ ...one, layers: one.layers.map((layer, i) => (i === current ? change(layer) : layer)) }))
        }
        onRemove={() => onChange((one) => ({ ...one, layers: one.layers.filter((_, i) => i !== current) }))}
        onLeave={onLeave}
      />
    </View>
  );
}
