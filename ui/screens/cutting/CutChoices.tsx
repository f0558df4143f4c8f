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
import { forgetSheet, keepSheet, useKeptSheets } from "../../data/cut.ts";
import { Button } from "../../parts/Button.tsx";
import { Choice } from "../../parts/Choice.tsx";
import { Drawer } from "../../parts/Drawer.tsx";
import { Field } from "../../parts/Field.tsx";
import { Tick } from "../../parts/Tick.tsx";
import { Small } from "../../parts/Text.tsx";
import { ColourField, NumberField } from "../bench/LayerPanel.tsx";
import { SAY } from "../../sentences/cutting/cut.ts";

const SIZE_OF: Record<CutSizeOf, string> = {
  capitals: SAY.heightOfCapitals,
  small: SAY.heightOfSmallLetters,
  whole: SAY.heightOfTheWhole,
  width: SAY.widthOfTheWhole,
};
const UNITS: Record<CutUnit, string> = { mm: "mm", in: "inches" };
const JOIN: Record<Join, string> = {
  nothing: SAY.joinNothing,
  letter: SAY.joinEachLetterByItself,
  word: SAY.joinWordByWord,
  line: SAY.joinLineByLine,
  layer: SAY.joinEverything,
};
const BACKING: Record<BackingShape, string> = {
  none: SAY.noBacking,
  contour: SAY.aContourAroundIt,
  rectangle: SAY.aRectangleBehindIt,
  rounded: SAY.aRoundedRectangleBehindIt,
  ellipse: SAY.anEllipseBehindIt,
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
      <Drawer label={SAY.size} testID="cut-size">
        <View className="p-3">
          <View className="mb-3 flex-row">
            <Choice
              label={SAY.sizeOf}
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
              label={SAY.sizeUnit(unit)}
              value={size.value}
              least={Math.round((0.5 / CUT_UNITS[unit]) * 1000) / 1000}
              most={Math.round((MOST_MM / CUT_UNITS[unit]) * 100) / 100}
              onChange={(value) => set({ size: { ...size, value } })}
              testID="cut-size-value"
            />
            <View className="mb-3">
              <Choice
                label={SAY.unit}
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
              label={SAY.warnAboutPartsAndGaps}
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
      <Drawer label={SAY.letters} testID="cut-letters">
        <View className="p-3">
          <View className="mb-1 flex-row">
            <Choice label={SAY.join} words={JOIN} value={settings.join} onChange={(join) => join && set({ join })} grow testID="cut-join" />
          </View>
          <Small>{joining ? SAY.whatOverlapsBecomesOneOutline : SAY.everyOutlineIsCutAs}</Small>
        </View>
        <Tick
          label={SAY.moveLettersUntilTheyTouch}
          note={SAY.eachOverlapsTheOneBefore}
          on={settings.touch}
          onChange={(touch) => set({ touch })}
          testID="cut-touch"
        />
        <Tick
          label={SAY.mirrored}
          note={SAY.forWhatIsIronedOn}
          on={settings.mirror}
          onChange={(mirror) => set({ mirror })}
          testID="cut-mirror"
        />
        <Tick
          label={SAY.hollowLetters}
          note={SAY.onlyABandAlongThe}
          on={settings.hollowMm > 0}
          onChange={(on) => set({ hollowMm: on ? 1 : 0, join: joining ? settings.join : "line" })}
          testID="cut-hollow"
        />
        {settings.hollowMm > 0 ? (
          <View className="flex-row px-3">
            <Length
              label={SAY.widthOfTheBand}
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
          label={SAY.stencilTheBackgroundIsKept}
          note={SAY.whatIsInsideLettersFalls}
          on={settings.stencil}
          onChange={(stencil) => set({ stencil, join: stencil && !joining ? "line" : settings.join })}
          testID="cut-stencil"
        />
        {settings.stencil ? (
          <View className="px-3">
            <View className="flex-row">
              <Length
                label={SAY.widthOfBridges}
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
                <Button label={SAY.removeBridges(settings.bridges.length)} onPress={() => set({ bridges: [] })} testID="no-bridges" />
              </View>
            ) : null}
          </View>
        ) : null}
        {settings.leftOut.length > 0 ? (
          <View className="items-start p-3">
            <Button label={SAY.putBackWhatIsLeft(settings.leftOut.length)} onPress={() => set({ leftOut: [] })} testID="put-back" />
          </View>
        ) : null}
      </Drawer>
      <Drawer label={SAY.backingAndColours} testID="cut-backing">
        <View className="p-3">
          <View className="mb-3 flex-row">
            <Choice
              label={SAY.backing}
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
                  label={SAY.marginAroundIt}
                  mm={backing.mm}
                  unit={unit}
                  least={0}
                  most={500}
                  onChange={(mm) => set({ backing: { ...backing, mm } })}
                  testID="cut-backing-mm"
                />
              </View>
              <ColourField
                label={SAY.colourOfTheBacking}
                value={backing.colour}
                onChange={(colour) => set({ backing: { ...backing, colour } })}
                testID="cut-backing-colour"
              />
            </>
          )}
          {manyLayers ? (
            <View className="flex-row">
              <Length
                label={SAY.layersBelowGrowByOr}
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
          label={SAY.registerMarksOnEverySheet}
          note={SAY.threeSmallKitesAroundThe}
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
    none: SAY.asLargeAsTheDrawing,
    own: SAY.aSheetOfMySize,
    ...Object.fromEntries(kept.map((one) => [`kept ${one.name}`, one.name])),
  };
  const known = sheet && kept.find(({ widthMm, heightMm }) => widthMm === sheet.widthMm && heightMm === sheet.heightMm);
  return (
    <Drawer label={SAY.sheetAndCopies} testID="cut-sheet">
      <View className="p-3">
        <View className="mb-3 flex-row">
          <Choice
            label={SAY.sheet}
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
                label={SAY.width}
                mm={sheet.widthMm}
                unit={unit}
                least={10}
                most={MOST_MM}
                onChange={(widthMm) => set({ sheet: { ...sheet, widthMm } })}
                testID="cut-sheet-width"
              />
              <Length
                label={SAY.height}
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
                <Button label={SAY.forgetName(known.name)} onPress={() => forgetSheet(known.name)} testID="forget-sheet" />
              </View>
            ) : (
              <View className="flex-row items-end gap-2">
                <Field
                  label={SAY.keepThisSizeAs}
                  value={name}
                  onChange={setName}
                  placeholder={SAY.vinylOffcut}
                  className="min-w-0 flex-1"
                  testID="keep-sheet-name"
                />
                <View className="mb-3">
                  <Button
                    label={SAY.keep}
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
            label={SAY.copies}
            value={settings.copies}
            least={1}
            most={MOST_COPIES}
            onChange={(copies) => set({ copies: Math.round(copies) })}
            testID="cut-copies"
          />
          <Length
            label={SAY.betweenThem}
            mm={settings.gapMm}
            unit={unit}
            least={0}
            most={500}
            onChange={(gapMm) => set({ gapMm })}
            testID="cut-gap"
          />
        </View>
      </View>
      <Tick label={SAY.turnCopiesIfTheyFit} on={settings.turn} onChange={(turn) => set({ turn })} testID="cut-turn" />
    </Drawer>
  );
}
