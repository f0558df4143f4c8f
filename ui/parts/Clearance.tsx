// What a licence allows, use by use: a mark with its word, and on demand the very sentence and where it stands.
import { useState, type ReactNode } from "react";
import { Pressable, View } from "react-native";
import Svg, { Line, Path } from "react-native-svg";
import type { Answer, EvidenceOfUse, Use, UseClearance } from "../../contract/clearance.ts";
import { ANSWER_WORDS, USE_WORDS } from "../../core/clearance/uses.ts";
import { usePalette } from "../theme/theme.ts";
import { Body, Small, Strong } from "./Text.tsx";

/** A plant label: whole for yes, with a line of writing for yes with credit, cut through for no, in dots for silence. */
export function AnswerMark({ answer }: { answer: Answer }) {
  const palette = usePalette();
  const label = "M3 4 H17 L21 12 L17 20 H3 Z";
  const colour = answer === "no" ? palette.warning : answer === "not-stated" ? palette.faded : palette.verdigris;
  return (
    <Svg width={24} height={24} viewBox="0 0 24 24" aria-hidden>
      {answer === "yes" || answer === "credit" ? (
        <Path d={label} fill={colour} />
      ) : (
        <Path d={label} fill="none" stroke={colour} strokeWidth={1.8} strokeDasharray={answer === "not-stated" ? "2 2.5" : undefined} />
      )}
      {answer === "credit" ? <Line x1={6} y1={15} x2={15} y2={15} stroke={palette.drawer} strokeWidth={2} /> : null}
      {answer === "no" ? <Line x1={2} y1={22} x2={20} y2={2} stroke={colour} strokeWidth={2} /> : null}
    </Svg>
  );
}

export function AnswerWords({ answer, reading = false }: { answer: Answer; reading?: boolean }) {
  return (
    <View className="flex-row items-center gap-2">
      <AnswerMark answer={answer} />
      <Small className="text-ink">{reading ? "Being read" : ANSWER_WORDS[answer]}</Small>
    </View>
  );
}

function Evidence({ evidence }: { evidence: readonly EvidenceOfUse[] }) {
  return evidence.map((one) => (
    <View key={one.where + one.sentence} className="mb-2 border-l-2 border-edge pl-3" testID="evidence">
      <Body>{one.licence ? one.sentence : `“${one.sentence}”`}</Body>
      <Small>
        {ANSWER_WORDS[one.answer]}
        {one.licence ? `, by the licence ${one.licence}` : ""}. It stands in {one.where}.
      </Small>
    </View>
  ));
}

interface TableProps {
  uses: readonly UseClearance[];
  /** What can be done about one use, shown when it is open. */
  more?: (use: UseClearance) => ReactNode;
}

export function ClearanceTable({ uses, more }: TableProps) {
  const [open, setOpen] = useState<Use>();
  return (
    <View testID="clearance-table">
      {uses.map((one) => (
        <View key={one.use} className="border-t border-edge" testID={`use-${one.use}`}>
          <Pressable
            role="button"
            aria-expanded={open === one.use}
            onPress={() => setOpen(open === one.use ? undefined : one.use)}
            className="min-h-[48px] flex-row items-center justify-between gap-3 px-3 py-1 active:opacity-60"
          >
            <Strong className="min-w-0 flex-1">{USE_WORDS[one.use]}</Strong>
            <AnswerWords answer={one.answer} reading={one.reading} />
          </Pressable>
          {open === one.use ? (
            <View className="px-3 pb-3">
              {one.conflict ? (
                <Body className="mb-2 text-warning">Its papers contradict one another. The stricter one counts until you decide.</Body>
              ) : null}
              {one.by === "person" || one.by === "licence" || one.reading || one.evidence.length === 0 ? (
                <Body className="mb-2">{one.reason}</Body>
              ) : null}
              <Evidence evidence={one.evidence} />
              {one.more > 0 ? <Small>{`${one.more} more statements of its papers speak of this use.`}</Small> : null}
              {more?.(one)}
            </View>
          ) : null}
        </View>
      ))}
    </View>
  );
}
