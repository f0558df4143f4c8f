// What was found, by kind, each place gone to in turn, with what to do about it.
import { View } from "react-native";
import { FINDINGS, type CutFinding, type FindingKind } from "../../../core/cutting/found.ts";
import { count } from "../../../core/words/words.ts";
import type { CutView } from "../../../core/cutting/view.ts";
import { Button } from "../../parts/Button.tsx";
import { Drawer, DrawerRow } from "../../parts/Drawer.tsx";
import { Body, Small, Strong } from "../../parts/Text.tsx";

const KIND: Record<FindingKind, (n: number) => string> = {
  overlap: (n) => count(n, "overlap"),
  unjoined: (n) => `${count(n, "sheet")} not joined`,
  thin: (n) => count(n, "thin part"),
  gap: (n) => count(n, "narrow gap"),
  sharp: (n) => count(n, "sharp point"),
  tiny: (n) => count(n, "tiny piece"),
  loose: (n) => count(n, "loose piece"),
  "falls-out": (n) => `${count(n, "inside")} that ${n === 1 ? "falls" : "fall"} out`,
  touches: (n) => `${count(n, "place")} where pieces just touch`,
};

interface Props {
  view: CutView;
  joining: boolean;
  current: CutFinding | undefined;
  onGo: (finding: CutFinding | undefined) => void;
  onLeaveOut: (finding: CutFinding) => void;
  onBridge: () => void;
}

export function CutFindings({ view, joining, current, onGo, onLeaveOut, onBridge }: Props) {
  const kinds = FINDINGS.filter((kind) => (view.counts[kind] ?? 0) > 0);
  const own = (kind: FindingKind) => view.findings.filter((one) => one.kind === kind);
  const step = (kind: FindingKind, by: number) => {
    const list = own(kind);
    const at = current?.kind === kind ? list.indexOf(current) : by > 0 ? -1 : 0;
    onGo(list[(at + by + list.length) % list.length]);
  };
  if (kinds.length === 0)
    return (
      <Drawer label="Found" testID="findings">
        <DrawerRow first>
          <Body>Nothing stands in the way of this cut.</Body>
        </DrawerRow>
      </Drawer>
    );
  return (
    <Drawer label="Found" note="Tap to go there" testID="findings">
      {kinds.map((kind, i) => {
        const open = current?.kind === kind;
        const list = own(kind);
        return (
          <DrawerRow key={kind} first={i === 0} testID={`found-${kind}`}>
            <View className="flex-row flex-wrap items-center justify-between gap-2">
              <View className="min-w-0 flex-1">
                <Strong>{KIND[kind](view.counts[kind]!)}</Strong>
                {open ? null : <Small>{list[0]!.next}</Small>}
              </View>
              {open ? <Button label="Earlier" onPress={() => step(kind, -1)} testID={`earlier-${kind}`} /> : null}
              <Button label={open ? "Next" : "Show"} onPress={() => step(kind, 1)} testID={`show-${kind}`} />
            </View>
            {open && current ? (
              <View className="mt-2" role="status" testID="current-finding">
                <Body>
                  {list.indexOf(current) + 1} of {list.length}: {current.words}
                </Body>
                <Small>{current.next}</Small>
                <View className="mt-2 flex-row flex-wrap gap-2">
                  {joining && (kind === "tiny" || kind === "loose") ? (
                    <Button label="Leave it out" onPress={() => onLeaveOut(current)} testID="leave-out" />
                  ) : null}
                  {kind === "falls-out" && view.proposed.length > 0 ? (
                    <Button label={`Put ${count(view.proposed.length, "bridge")}`} onPress={onBridge} testID="put-bridges" />
                  ) : null}
                  <Button label="Close" onPress={() => onGo(undefined)} testID="close-finding" />
                </View>
              </View>
            ) : null}
          </DrawerRow>
        );
      })}
    </Drawer>
  );
}
