// One layer of a line: its style, colour, letterforms, axes and place.
import { useRouter } from "expo-router";
import { useState } from "react";
import { Pressable, View } from "react-native";
import { listWords } from "../../../core/words/words.ts";
import type { BenchLayer, FeatureView, StyleFacts } from "../../../contract/bench.ts";
import { colourOf, contrastWords } from "../../../core/bench/colour.ts";
import type { LettersOf } from "../../../core/bench/line.ts";
import { styleName } from "../../data/bench.ts";
import { useFeatures } from "../../data/hooks.ts";
import { Button } from "../../parts/Button.tsx";
import { Choice } from "../../parts/Choice.tsx";
import { Field } from "../../parts/Field.tsx";
import { Body, Small, Strong } from "../../parts/Text.tsx";
import { RangeInput } from "../../web/RangeInput.tsx";
import { GlyphsLink } from "./SheetLine.tsx";
import { SAY } from "../../sentences/bench/bench.ts";

const SWATCHES = ["#1d1a16", "#ffffff", "#b4400f", "#1b6a5d", "#2f4a8a", "#d9a514", "#8a2b5b"];
const SWATCH_WORDS = [SAY.ink, SAY.white, SAY.persimmon, SAY.verdigris, SAY.blue, SAY.yellow, SAY.plum];

export function ColourField({
  label,
  value,
  onChange,
  testID,
}: {
  label: string;
  value: string;
  onChange: (colour: string) => void;
  testID: string;
}) {
  const [typed, setTyped] = useState<string>();
  const known = typed === undefined || colourOf(typed) !== undefined;
  return (
    <View className="mb-3">
      <Small className="mb-1 text-ink">{label}</Small>
      <View className="flex-row flex-wrap gap-1" role="group" aria-label={label}>
        {SWATCHES.map((colour, i) => (
          <Pressable
            key={colour}
            role="button"
            aria-label={`${label}: ${SWATCH_WORDS[i]}`}
            aria-pressed={value === colour}
            testID={`${testID}-${SWATCH_WORDS[i]!.toLowerCase()}`}
            onPress={() => {
              setTyped(undefined);
              onChange(colour);
            }}
            className={`h-11 w-11 items-center justify-center border-2 ${value === colour ? "border-ink" : "border-edge"}`}
          >
            <View style={{ backgroundColor: colour }} className="h-7 w-7 border border-edge" />
          </Pressable>
        ))}
        <Field
          label={SAY.orAsRrggbb}
          value={typed ?? value}
          onChange={(text) => {
            setTyped(text);
            const colour = colourOf(text);
            if (colour) onChange(colour);
          }}
          problem={known ? undefined : SAY.sixFiguresFrom0To}
          testID={testID}
          className="mb-0 w-36"
        />
      </View>
    </View>
  );
}

function FeatureChoice({
  feature,
  value,
  onChange,
}: {
  feature: FeatureView;
  value: number | undefined;
  onChange: (value: number | undefined) => void;
}) {
  const on = value === undefined ? feature.byItself : value > 0;
  const press = () => onChange(on === feature.byItself ? (on ? 0 : 1) : undefined);
  const words = Object.fromEntries(feature.values.map((name, i) => [String(i + 1), name || SAY.number(i)]));
  const reach = feature.byItself
    ? SAY.onInEveryProgramUnless
    : feature.programs.length === 0
      ? SAY.noneOfYourProgramsIs
      : SAY.programsCanTurnItOn(listWords(feature.programs));
  return (
    <View className="border-t border-edge py-1" testID={`feature-${feature.tag}`}>
      <Pressable
        role="switch"
        aria-checked={on}
        aria-label={feature.name}
        onPress={press}
        className="min-h-[44px] flex-row items-center gap-3 active:opacity-60"
      >
        <View className={`h-5 w-5 items-center justify-center border-2 ${on ? "border-ink" : "border-faded"}`}>
          {on ? <View className="h-2.5 w-2.5 bg-ink" /> : null}
        </View>
        <View className="min-w-0 flex-1">
          <Body>{feature.name}</Body>
          <Small>{reach}</Small>
        </View>
      </Pressable>
      {on && feature.values.length > 1 ? (
        <Choice
          label={SAY.whichOfName(feature.name)}
          words={words}
          value={String(value ?? 1)}
          onChange={(next) => onChange(Number(next ?? 1))}
        />
      ) : null}
    </View>
  );
}

const LETTERS: Record<LettersOf, string> = { all: SAY.allLetters, capitals: SAY.capitalsOnly, small: SAY.smallLettersOnly };
const MADE: Record<BenchLayer["made"]["kind"], string> = {
  none: SAY.theLettersThemselves,
  contour: SAY.aContourAroundThem,
  shadow: SAY.aShadowOfThem,
};

interface Props {
  layer: BenchLayer;
  facts: StyleFacts | undefined;
  /** Where choosing another style leads. */
  pickHref: string;
  many: boolean;
  ground: string;
  /** About how large the letters are, for whether they can be read. */
  emMm: number;
  onChange: (change: (layer: BenchLayer) => BenchLayer) => void;
  onRemove: () => void;
  onLeave: () => Promise<void>;
}

export function LayerPanel({ layer, facts, pickHref, many, ground, emMm, onChange, onRemove, onLeave }: Props) {
  const router = useRouter();
  const { data: features } = useFeatures(facts?.styleId ?? null);
  const set = (part: Partial<BenchLayer>) => onChange((one) => ({ ...one, ...part }));
  const feature = (tag: string, value: number | undefined) =>
    onChange((one) => {
      const { [tag]: _old, ...rest } = one.features;
      return { ...one, features: value === undefined ? rest : { ...rest, [tag]: value } };
    });
  const { made } = layer;
  return (
    <View className="gap-1">
      <View className="flex-row flex-wrap items-center gap-2">
        <Strong className="min-w-0 flex-1">{styleName(layer.style)}</Strong>
        <Button label={SAY.anotherStyle} onPress={() => void onLeave().then(() => router.push(pickHref as never))} testID="another-style" />
        {many ? <Button label={SAY.removeLayer} onPress={onRemove} testID="remove-layer" /> : null}
      </View>
      <GlyphsLink facts={facts} />
      <Small testID="contrast">{contrastWords(layer.colour, ground, emMm)}</Small>
      <ColourField label={SAY.colour} value={layer.colour} onChange={(colour) => set({ colour })} testID="colour" />
      {facts?.coloured ? <Small className="mb-2">{SAY.thisFontBringsItsOwn}</Small> : null}
      {features && features.features.length > 0 ? (
        <View className="mb-3" role="group" aria-label={SAY.letterforms}>
          <Small className="mb-1 text-ink">{SAY.letterformsWhatEachChangesIn}</Small>
          {features.features.map((one) => (
            <FeatureChoice key={one.tag} feature={one} value={layer.features[one.tag]} onChange={(value) => feature(one.tag, value)} />
          ))}
        </View>
      ) : null}
      {facts && facts.axes.length > 0 ? (
        <View className="mb-3" role="group" aria-label={SAY.axes}>
          {facts.instances.length > 0 ? (
            <Choice
              label={SAY.namedStyle}
              none={SAY.itsOwnStyles}
              words={Object.fromEntries(facts.instances.map(({ name }, i) => [String(i), name]))}
              value={undefined}
              onChange={(i) => i !== undefined && set({ axes: facts.instances[Number(i)]!.at })}
              testID="instance"
            />
          ) : null}
          {facts.axes.map(({ tag, name, min, max, default: usual }) => {
            const value = layer.axes[tag] ?? usual;
            return (
              <View key={tag} className="flex-row items-center gap-3">
                <Small className="w-24 text-ink">{name}</Small>
                <View className="min-w-0 flex-1">
                  <RangeInput
                    label={name}
                    value={value}
                    least={min}
                    most={max}
                    unit=""
                    step={max - min > 20 ? 1 : (max - min) / 100}
                    onChange={(next) => set({ axes: { ...layer.axes, [tag]: next } })}
                  />
                </View>
                <Small className="w-14 text-right">{Math.round(value * 100) / 100}</Small>
              </View>
            );
          })}
        </View>
      ) : null}
      <View className="flex-row flex-wrap gap-2">
        <Choice
          label={SAY.draws}
          words={LETTERS}
          value={layer.letters}
          onChange={(letters) => letters && set({ letters })}
          testID="letters"
        />
        <Choice
          label={SAY.whatIsDrawn}
          words={MADE}
          value={made.kind}
          onChange={(kind) =>
            set({ made: kind === "contour" ? { kind, mm: 1 } : kind === "shadow" ? { kind, mm: 2, degrees: 315 } : { kind: "none" } })
          }
          testID="made"
        />
      </View>
      {made.kind === "none" ? null : (
        <View className="flex-row gap-3">
          <NumberField
            label={made.kind === "contour" ? SAY.widthMm : SAY.distanceMm}
            value={made.mm}
            least={0}
            most={100}
            onChange={(mm) => set({ made: { ...made, mm } })}
            testID="made-mm"
          />
          {made.kind === "shadow" ? (
            <NumberField
              label={SAY.directionDegrees}
              value={made.degrees}
              least={0}
              most={360}
              onChange={(degrees) => set({ made: { ...made, degrees } })}
              testID="made-degrees"
            />
          ) : null}
        </View>
      )}
      {many ? (
        <View className="flex-row gap-3">
          <NumberField label={SAY.moveRight11000Em} value={layer.dx} least={-5000} most={5000} onChange={(dx) => set({ dx })} testID="dx" />
          <NumberField label={SAY.moveUp11000Em} value={layer.dy} least={-5000} most={5000} onChange={(dy) => set({ dy })} testID="dy" />
        </View>
      ) : null}
    </View>
  );
}

/** A number typed; what is no number, or out of bounds, is said and not used. */
export function NumberField({
  label,
  value,
  least,
  most,
  onChange,
  testID,
}: {
  label: string;
  value: number;
  least: number;
  most: number;
  onChange: (value: number) => void;
  testID: string;
}) {
  const [typed, setTyped] = useState<string>();
  const parsed = typed === undefined ? value : Number(typed.replace(",", "."));
  const fits = Number.isFinite(parsed) && parsed >= least && parsed <= most && typed?.trim() !== "";
  return (
    <Field
      label={label}
      numeric
      value={typed ?? String(value)}
      onChange={(text) => {
        setTyped(text);
        const next = Number(text.replace(",", "."));
        if (text.trim() !== "" && Number.isFinite(next) && next >= least && next <= most) onChange(next);
      }}
      problem={fits ? undefined : SAY.fromLeastToMost(least, most)}
      testID={testID}
      className="min-w-0 flex-1"
    />
  );
}
