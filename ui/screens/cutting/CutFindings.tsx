// What was found, by kind, each place gone to in turn, with what to do about it.
import { View } from "react-native";
import { FINDINGS, type CutFinding, type FindingKind } from "../../../core/cutting/findings/kinds.ts";
import { count } from "../../../core/words/words.ts";
import type { CutView } from "../../../core/cutting/view.ts";
import { Button } from "../../parts/Button.tsx";
import { Drawer, DrawerRow } from "../../parts/Drawer.tsx";
import { Body, Small, Strong } from "../../parts/Text.tsx";
import { SAY } from "../../sentences/cutting/cut.ts";

const KIND: Record<FindingKind, (n: number) => string> = {
  overlap: (n) => count(n, "overlap"),
  unjoined: (n) => SAY.nNotJoined(n),
  thin: (n) => count(n, "thin part"),
  gap: (n) => count(n, "narrow gap"),
  sharp: (n) => count(n, "sharp point"),
  tiny: (n) => count(n, "tiny piece"),
  loose: (n) => count(n, "loose piece"),
  "falls-out": (n) => SAY.nThatOut(n),
  touches: (n) => SAY.nWherePiecesJustTouch(n),
};

interface Props {
  view: CutView;
  current: CutFinding | undefined;
  onGo: (finding: CutFinding | undefined) => void;
}

/** All kinds, each with how many there are. */
export function CutFindings({ view, current, onGo }: Props) {
  const kinds = FINDINGS.filter((kind) => (view.counts[kind] ?? 0) > 0);
  const first = (kind: FindingKind) => view.findings.find((one) => one.kind === kind)!;
  return (
    <Drawer label={SAY.found} testID="findings">
      {kinds.length === 0 ? (
        <DrawerRow first>
          <Body>{SAY.noProblemsFoundInThis}</Body>
        </DrawerRow>
      ) : null}
      {kinds.map((kind, i) => (
        <DrawerRow key={kind} first={i === 0} testID={`found-${kind}`}>
          <View className="flex-row items-center justify-between gap-2">
            <View className="min-w-0 flex-1">
              <Strong>{KIND[kind](view.counts[kind]!)}</Strong>
              <Small>{first(kind).next}</Small>
            </View>
            <Button
              label={SAY.show}
              hint={KIND[kind](view.counts[kind]!)}
              pressed={current?.kind === kind}
              onPress={() => onGo(first(kind))}
              testID={`show-${kind}`}
            />
          </View>
        </DrawerRow>
      ))}
    </Drawer>
  );
}

interface OneProps extends Props {
  current: CutFinding;
  joining: boolean;
  onLeaveOut: (finding: CutFinding) => void;
  onBridge: () => void;
}
/** The one that is gone to, below the drawing, with the way to the others of its kind. */
export function CurrentFinding({ view, current, joining, onGo, onLeaveOut, onBridge }: OneProps) {
  const { kind } = current;
  const list = view.findings.filter((one) => one.kind === kind);
  const at = list.indexOf(current);
  const step = (by: number) => onGo(list[(at + by + list.length) % list.length]);
  return (
    <View className="mt-2 border border-ink bg-drawer p-3">
      <View role="status" testID="current-finding">
        <Strong>{current.words}</Strong>
        <Small>{SAY.aFindingAmongOthers(at, KIND[kind](view.counts[kind]!), list.length, view.counts[kind]!, current.next)}</Small>
      </View>
      <View className="mt-2 flex-row flex-wrap gap-2">
        <Button label={SAY.earlier} disabled={list.length < 2} onPress={() => step(-1)} testID="earlier-finding" />
        <Button label={SAY.next} disabled={list.length < 2} onPress={() => step(1)} testID="next-finding" />
        {joining && (kind === "tiny" || kind === "loose") ? (
          <Button label={SAY.leaveItOut} onPress={() => onLeaveOut(current)} testID="leave-out" />
        ) : null}
        {kind === "falls-out" && view.proposed.length > 0 ? (
          <Button label={SAY.putProposed(view.proposed.length)} onPress={onBridge} testID="put-bridges" />
        ) : null}
        <Button label={SAY.close} onPress={() => onGo(undefined)} testID="close-finding" />
      </View>
    </View>
  );
}
