// Finding families by their manner: how heavy, wide, slanted they are. Each scale says nothing until it is moved.
import { View } from "react-native";
import { MANNER_SCALES } from "../../../core/matching/faces/manner-steps.ts";
import { Button } from "../../parts/Button.tsx";
import { Drawer, DrawerRow } from "../../parts/Drawer.tsx";
import { Body, Small } from "../../parts/Text.tsx";
import { RangeInput } from "../../web/RangeInput.tsx";
import { SAY } from "../../sentences/matching/alike.ts";

/** Steps by scale, as the address has them. */
export function mannerSteps(chosen: string): Map<string, number> {
  return new Map(
    chosen
      .split(",")
      .filter(Boolean)
      .map((part): [string, number] => {
        const [of = "", step = "0"] = part.split(":");
        return [of, Number(step)];
      }),
  );
}

export function MannerFilter({ chosen, onChange }: { chosen: string; onChange: (chosen: string) => void }) {
  const steps = mannerSteps(chosen);
  const put = (of: string, step: number) => {
    if (step < 0) steps.delete(of);
    else steps.set(of, step);
    onChange([...steps].map(([key, value]) => `${key}:${value}`).join(","));
  };
  return (
    <Drawer label={SAY.findByManner} note={steps.size > 0 ? SAY.sizeChosen(steps.size) : undefined} testID="manner">
      {MANNER_SCALES.map(({ of, label, words }, i) => {
        const step = steps.get(of) ?? -1;
        const word = words[step] ?? SAY.any;
        return (
          <View key={of} className={`px-3 py-1 ${i === 0 ? "" : "border-t border-edge"}`} testID={`manner-${of}`}>
            <View className="flex-row items-center justify-between">
              <Body>{label}</Body>
              <Small>{word}</Small>
            </View>
            <RangeInput
              label={label}
              said={word}
              value={step}
              least={-1}
              most={words.length - 1}
              step={1}
              unit=""
              onChange={(next) => put(of, next)}
            />
          </View>
        );
      })}
      <DrawerRow>
        <View className="items-start">
          <Button label={SAY.anyManner} disabled={steps.size === 0} onPress={() => onChange("")} testID="any-manner" />
        </View>
      </DrawerRow>
    </Drawer>
  );
}
