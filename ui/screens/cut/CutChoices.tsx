// Everything that can be chosen for a cut.
import { useState } from "react";
import { View } from "react-native";
import {
  CUT_UNITS,
  MOST_COPIES,
  MOST_MM,
  type BackingShape,
  type CutSettings,
  type CutSizeOf,
  type CutUnit,
  type Join,
} from "../../../core/cutting/settings.ts";
import { count } from "../../../core/words/words.ts";
import { forgetSheet, keepSheet, useKeptSheets } from "../../data/cut.ts";
import { Button } from "../../parts/Button.tsx";
import { Choice } from "../../parts/Choice.tsx";
import { Drawer } from "../../parts/Drawer.tsx";
import { Field } from "../../parts/Field.tsx";
import { Tick } from "../../parts/Tick.tsx";
import { Small } from "../../parts/Text.tsx";
import { ColourField, NumberField } from "../bench/LayerPanel.tsx";

const SIZE_OF: Record<CutSizeOf, string> = {
  capitals: "Height of capitals",
  small: "Height of small letters",
  whole: "Height of the whole",
  width: "Width of the whole",
};
const UNITS: Record<CutUnit, string> = { mm: "mm", in: "inches" };
const JOIN: Record<Join, string> = {
  nothing: "Join nothing",
  letter: "Join each letter by itself",
  word: "Join word by word",
  line: "Join line by line",
  layer: "Join everything",
};
const BACKING: Record<BackingShape, string> = {
  none: "No backing",
  contour: "A contour around it",
  rectangle: "A rectangle behind it",
  rounded: "A rounded rectangle behind it",
  ellipse: "An ellipse behind it",
};

interface Props {
  settings: CutSettings;
  manyLayers: boolean;
  onChange: (change: (settings: CutSettings) => CutSettings) => void;
}

function Length({
  label,
  mm,
  unit,
  least,
  most,
  onChange,
  testID,
}: {
  label: string;
  mm: number;
  unit: CutUnit;
  least: number;
  most: number;
  onChange: (mm: number) => void;
  testID: string;
}) {
  const a = CUT_UNITS[unit];
  const round = (value: number) => Math.round(value * 1000) / 1000;
  return (
    <NumberField
      key={unit}
      label={`${label}, ${unit}`}
      value={round(mm / a)}
      least={round(least / a)}
      most={round(most / a)}
      onChange={(value) => onChange(value * a)}
      testID={testID}
    />
  );
}

export function CutChoices({ settings, manyLayers, onChange }: Props) {
  const { size, backing } = settings;
  const { unit } = size;
  const set = (part: Partial<CutSettings>) => onChange((one) => ({ ...one, ...part }));
  const joining = settings.join !== "nothing";
  return (
    <>
      <Drawer label="Size" testID="cut-size">
        <View className="p-3">
          <View className="mb-3 flex-row">
            <Choice
              label="Size of"
              words={SIZE_OF}
              value={size.of}
              onChange={(of) => of && set({ size: { ...size, of } })}
              grow
              testID="cut-size-of"
            />
          </View>
          <View className="flex-row items-end gap-2">
            <NumberField
              key={unit}
              label={`Size, ${unit}`}
              value={size.value}
              least={Math.round((0.5 / CUT_UNITS[unit]) * 1000) / 1000}
              most={Math.round((MOST_MM / CUT_UNITS[unit]) * 100) / 100}
              onChange={(value) => set({ size: { ...size, value } })}
              testID="cut-size-value"
            />
            <View className="mb-3">
              <Choice
                label="Unit"
                words={UNITS}
                value={unit}
                onChange={(next) =>
                  next &&
                  set({
                    size: { ...size, unit: next, value: Math.round(((size.value * CUT_UNITS[unit]) / CUT_UNITS[next]) * 1000) / 1000 },
                  })
                }
                testID="cut-unit"
              />
            </View>
          </View>
          <View className="flex-row">
            <Length
              label="Tell of parts and gaps under"
              mm={settings.limitMm}
              unit={unit}
              least={0.05}
              most={20}
              onChange={(limitMm) => set({ limitMm })}
              testID="cut-limit"
            />
          </View>
        </View>
      </Drawer>
      <Drawer label="Letters" testID="cut-letters">
        <View className="p-3">
          <View className="mb-1 flex-row">
            <Choice label="Join" words={JOIN} value={settings.join} onChange={(join) => join && set({ join })} grow testID="cut-join" />
          </View>
          <Small>{joining ? "What overlaps becomes one outline, checked each time." : "Every outline is cut as the font draws it."}</Small>
        </View>
        <Tick
          label="Move letters until they touch"
          note="Each overlaps the one before by 0.1 mm, so that a word holds together."
          on={settings.touch}
          onChange={(touch) => set({ touch })}
          testID="cut-touch"
        />
        <Tick
          label="Mirrored"
          note="For what is ironed on, or seen through glass."
          on={settings.mirror}
          onChange={(mirror) => set({ mirror })}
          testID="cut-mirror"
        />
        <Tick
          label="Hollow letters"
          note="Only a band along the outlines is left."
          on={settings.hollowMm > 0}
          onChange={(on) => set({ hollowMm: on ? 1 : 0, join: joining ? settings.join : "line" })}
          testID="cut-hollow"
        />
        {settings.hollowMm > 0 ? (
          <View className="flex-row px-3">
            <Length
              label="Width of the band"
              mm={settings.hollowMm}
              unit={unit}
              least={0.1}
              most={100}
              onChange={(hollowMm) => set({ hollowMm })}
              testID="cut-hollow-mm"
            />
          </View>
        ) : null}
        <Tick
          label="Stencil: the background is kept"
          note="What is inside letters falls out unless bridges hold it. Tap a letter in the drawing to put one there."
          on={settings.stencil}
          onChange={(stencil) => set({ stencil, join: stencil && !joining ? "line" : settings.join })}
          testID="cut-stencil"
        />
        {settings.stencil ? (
          <View className="px-3">
            <View className="flex-row">
              <Length
                label="Width of bridges"
                mm={settings.bridgeMm}
                unit={unit}
                least={0.2}
                most={50}
                onChange={(bridgeMm) => set({ bridgeMm })}
                testID="cut-bridge-mm"
              />
            </View>
            {settings.bridges.length > 0 ? (
              <View className="mb-3 items-start">
                <Button
                  label={`Remove ${count(settings.bridges.length, "bridge")}`}
                  onPress={() => set({ bridges: [] })}
                  testID="no-bridges"
                />
              </View>
            ) : null}
          </View>
        ) : null}
        {settings.leftOut.length > 0 ? (
          <View className="items-start p-3">
            <Button
              label={`Put back what is left out (${settings.leftOut.length})`}
              onPress={() => set({ leftOut: [] })}
              testID="put-back"
            />
          </View>
        ) : null}
      </Drawer>
      <Drawer label="Backing and colours" testID="cut-backing">
        <View className="p-3">
          <View className="mb-3 flex-row">
            <Choice
              label="Backing"
              words={BACKING}
              value={backing.shape}
              onChange={(shape) => shape && set({ backing: { ...backing, shape } })}
              grow
              testID="cut-backing-shape"
            />
          </View>
          {backing.shape === "none" ? null : (
            <>
              <View className="flex-row">
                <Length
                  label="So far around it"
                  mm={backing.mm}
                  unit={unit}
                  least={0}
                  most={500}
                  onChange={(mm) => set({ backing: { ...backing, mm } })}
                  testID="cut-backing-mm"
                />
              </View>
              <ColourField
                label="Colour of the backing"
                value={backing.colour}
                onChange={(colour) => set({ backing: { ...backing, colour } })}
                testID="cut-backing-colour"
              />
            </>
          )}
          {manyLayers ? (
            <View className="flex-row">
              <Length
                label="Layers below grow by (or shrink, −)"
                mm={settings.underMm}
                unit={unit}
                least={-20}
                most={20}
                onChange={(underMm) => set({ underMm })}
                testID="cut-under"
              />
            </View>
          ) : null}
        </View>
        <Tick
          label="Register marks on every sheet"
          note="Three small kites around the drawing, at the same place on all."
          on={settings.marks}
          onChange={(marks) => set({ marks })}
          testID="cut-marks"
        />
      </Drawer>
      <SheetChoice settings={settings} set={set} />
    </>
  );
}

function SheetChoice({ settings, set }: { settings: CutSettings; set: (part: Partial<CutSettings>) => void }) {
  const kept = useKeptSheets();
  const [name, setName] = useState("");
  const { sheet, size } = settings;
  const { unit } = size;
  const words: Record<string, string> = {
    none: "As large as the drawing",
    own: "A sheet of my size",
    ...Object.fromEntries(kept.map((one) => [`kept ${one.name}`, one.name])),
  };
  const known = sheet && kept.find(({ widthMm, heightMm }) => widthMm === sheet.widthMm && heightMm === sheet.heightMm);
  return (
    <Drawer label="Sheet and copies" testID="cut-sheet">
      <View className="p-3">
        <View className="mb-3 flex-row">
          <Choice
            label="Sheet"
            words={words}
            value={sheet === null ? "none" : known ? `kept ${known.name}` : "own"}
            onChange={(next) => {
              const one = kept.find((other) => next === `kept ${other.name}`);
              if (next === "none") set({ sheet: null });
              else if (one) set({ sheet: { widthMm: one.widthMm, heightMm: one.heightMm } });
              else set({ sheet: sheet ?? { widthMm: 300, heightMm: 300 } });
            }}
            grow
            testID="cut-sheet-choice"
          />
        </View>
        {sheet ? (
          <>
            <View className="flex-row gap-3">
              <Length
                label="Width"
                mm={sheet.widthMm}
                unit={unit}
                least={10}
                most={MOST_MM}
                onChange={(widthMm) => set({ sheet: { ...sheet, widthMm } })}
                testID="cut-sheet-width"
              />
              <Length
                label="Height"
                mm={sheet.heightMm}
                unit={unit}
                least={10}
                most={MOST_MM}
                onChange={(heightMm) => set({ sheet: { ...sheet, heightMm } })}
                testID="cut-sheet-height"
              />
            </View>
            {known ? (
              <View className="mb-3 items-start">
                <Button label={`Forget “${known.name}”`} onPress={() => forgetSheet(known.name)} testID="forget-sheet" />
              </View>
            ) : (
              <View className="flex-row items-end gap-2">
                <Field
                  label="Keep this size as"
                  value={name}
                  onChange={setName}
                  placeholder="Vinyl offcut"
                  className="min-w-0 flex-1"
                  testID="keep-sheet-name"
                />
                <View className="mb-3">
                  <Button
                    label="Keep"
                    disabled={name.trim() === ""}
                    onPress={() => {
                      keepSheet({ name: name.trim().slice(0, 40), ...sheet });
                      setName("");
                    }}
                    testID="keep-sheet"
                  />
                </View>
              </View>
            )}
          </>
        ) : null}
        <View className="flex-row gap-3">
          <NumberField
            label="Copies"
            value={settings.copies}
            least={1}
            most={MOST_COPIES}
            onChange={(copies) => set({ copies: Math.round(copies) })}
            testID="cut-copies"
          />
          <Length
            label="Between them"
            mm={settings.gapMm}
            unit={unit}
            least={0}
            most={500}
            onChange={(gapMm) => set({ gapMm })}
            testID="cut-gap"
          />
        </View>
      </View>
      <Tick label="Turn copies if they fit better" on={settings.turn} onChange={(turn) => set({ turn })} testID="cut-turn" />
    </Drawer>
  );
}
