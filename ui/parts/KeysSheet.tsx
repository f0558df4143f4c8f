// Every key, what it does, and the switch that turns single letters off.
import { View } from "react-native";
import { KEYS, lettersOn } from "../web/keys.ts";
import { Drawer } from "./Drawer.tsx";
import { Sheet } from "./Sheet.tsx";
import { Body, Small } from "./Text.tsx";
import { Tick } from "./Tick.tsx";

const EVERYWHERE: readonly [key: string, words: string][] = [
  ["1 to 5", "The five tabs, in their order"],
  ...Object.entries(KEYS).map(([key, { words }]): [string, string] => [key.toUpperCase(), words]),
  ["?", "This list"],
];
const ALWAYS: readonly [key: string, words: string][] = [
  ["Tab", "The next thing that can be used"],
  ["Arrows", "Within lists, the board and groups of answers"],
  ["Space", "Choose an entry of a list; with Shift all from the last one to this"],
  ["Ctrl A", "Choose all that fit, once you choose"],
  ["Escape", "Close a sheet, or stop choosing"],
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
    <Sheet title="Keys" onClose={onClose} testID="keys-sheet">
      <Drawer label="Single keys">
        <Tick first label="Use single keys" on={on} onChange={lettersOn.set} testID="letters-on" />
        {on ? <Rows rows={EVERYWHERE} /> : null}
      </Drawer>
      <Drawer label="Always">
        <Rows rows={ALWAYS} />
      </Drawer>
    </Sheet>
  );
}
