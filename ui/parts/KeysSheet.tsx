// Every key, what it does, and the switch that turns single letters off.
import { View } from "react-native";
import { KEYS, lettersOn } from "../web/keys.ts";
import { Drawer } from "./Drawer.tsx";
import { Sheet } from "./Sheet.tsx";
import { Body, Small } from "./Text.tsx";
import { Tick } from "./Tick.tsx";
import { SAY } from "../sentences/parts.ts";

const EVERYWHERE: readonly [key: string, words: string][] = [
  [SAY.n1To5, SAY.theFiveTabsInTheir],
  ...Object.entries(KEYS).map(([key, { words }]): [string, string] => [key.toUpperCase(), words]),
  ["?", SAY.thisList],
];
const ALWAYS: readonly [key: string, words: string][] = [
  ["Tab", SAY.theNextControl],
  [SAY.arrows, SAY.withinListsTheBoardAnd],
  ["Space", SAY.chooseAnEntryOfA],
  [SAY.ctrlA, SAY.chooseAllThatFitOnce],
  ["Escape", SAY.closeASheetOrStop],
];

function Rows({ rows }: { rows: readonly (readonly [string, string])[] }) {
  return rows.map(([key, words], i) => (
    <View key={key} className={`min-h-[44px] flex-row items-center gap-3 px-3 py-1 ${i === 0 ? "" : "border-t border-edge"}`}>
      <View className="w-20 items-start">
        <View className="border border-edge bg-tab px-2 py-1">
          <Small className="text-ink">{key}</Small>
        </View>
      </View>
      <Body className="min-w-0 flex-1">{words}</Body>
    </View>
  ));
}

export function KeysSheet({ onClose }: { onClose: () => void }) {
  const on = lettersOn.use();
  return (
    <Sheet title={SAY.keys} onClose={onClose} testID="keys-sheet">
      <Drawer label={SAY.singleKeys}>
        <Tick first label={SAY.useSingleKeys} on={on} onChange={lettersOn.set} testID="letters-on" />
        {on ? <Rows rows={EVERYWHERE} /> : null}
      </Drawer>
      <Drawer label={SAY.always}>
        <Rows rows={ALWAYS} />
      </Drawer>
    </Sheet>
  );
}
