// What a licence allows, use by use: a mark with its word, and on demand the very sentence and where it stands.
import { type ReactNode } from "react";
import { useOpen, useOpened } from "../data/page.ts";
import { Pressable, Text, View } from "react-native";
import Svg, { Line, Path } from "react-native-svg";
import type { Answer, EvidenceOfUse, Use, UseClearance } from "../../contract/clearance.ts";
import { ANSWER_WORDS, USE_WORDS } from "../../core/clearance/uses.ts";
import { usePalette } from "../theme/theme.ts";
import { Body, Small, Strong } from "./Text.tsx";
import { SAY } from "../sentences/parts.ts";

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
      <Small className="text-ink">{reading ? SAY.beingRead : ANSWER_WORDS[answer]}</Small>
    </View>
  );
}

/** A sentence in its paragraph, marked; what stands around it is quiet. */
function InParagraph({ one }: { one: EvidenceOfUse }) {
  return (
    <Text className="font-text text-base text-faded">
      {one.before ? `${one.before} ` : ""}
      <Text className="bg-tab font-strong text-ink">{one.licence && !one.before && !one.after ? one.sentence : `“${one.sentence}”`}</Text>
      {one.after ? ` ${one.after}` : ""}
    </Text>
  );
}

type Leave = (evidence: EvidenceOfUse, out: boolean) => void;

/** What is done about a sentence that was misunderstood; nothing can be done about a font's bits. */
function Wrong({ one, onLeave }: { one: EvidenceOfUse; onLeave: Leave | undefined }) {
  if (!onLeave || one.text === "" || (one.aside !== "" && !one.leftOut)) return null;
  const words = one.leftOut ? SAY.letItCountAgain : SAY.wrongLeaveItOut;
  return (
    <Pressable
      role="button"
      aria-label={`${words}: ${one.sentence}`}
      testID={one.leftOut ? "count-again" : "leave-out"}
      onPress={() => onLeave(one, !one.leftOut)}
      className="min-h-[44px] justify-center self-start pr-4 active:opacity-60"
    >
      <Small className="text-ink underline">{words}</Small>
    </Pressable>
  );
}

function Evidence({ one, onLeave }: { one: EvidenceOfUse; onLeave: Leave | undefined }) {
  return (
    <View className="mb-2 border-l-2 border-edge pl-3" testID={one.aside ? "also" : "evidence"}>
      <InParagraph one={one} />
      {one.aside ? (
        <Small className="mt-1">{SAY.itDoesNotCount(one.aside, one.where, one.again)}</Small>
      ) : (
        <Small className="mt-1">
          {SAY.itSaysSo(ANSWER_WORDS[one.answer], one.licence?.replaceAll(" OR ", " or ") ?? null, one.where, one.again)}
        </Small>
      )}
      <Wrong one={one} onLeave={onLeave} />
    </View>
  );
}

/** What speaks of a use and does not count, on demand. */
function Also({ use, also, onLeave }: { use: Use; also: readonly EvidenceOfUse[]; onLeave: Leave | undefined }) {
  const [open, setOpen] = useOpen(`also ${use}`);
  if (also.length === 0) return null;
  return (
    <View>
      <Pressable
        role="button"
        aria-expanded={open}
        testID="also-said"
        onPress={() => setOpen(!open)}
        className="min-h-[44px] justify-center self-start pr-4 active:opacity-60"
      >
        <Small className="text-ink underline">{open ? SAY.hideWhatDoesNotCount : SAY.alsoSaidAndNotCounted(also.length)}</Small>
      </Pressable>
      {open ? also.map((one) => <Evidence key={one.where + one.sentence + one.aside} one={one} onLeave={onLeave} />) : null}
    </View>
  );
}

interface TableProps {
  uses: readonly UseClearance[];
  /** Leaves a sentence out, or lets it count again. */
  onLeave?: Leave;
  /** What can be done about one use, shown when it is open. */
  more?: (use: UseClearance) => ReactNode;
}

export function ClearanceTable({ uses, onLeave, more }: TableProps) {
  const [open, setOpen] = useOpened<Use>("clearance");
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
              {one.conflict ? <Body className="mb-2 text-warning">{SAY.itsPapersContradictOneAnother}</Body> : null}
              {one.by === "person" || one.by === "licence" || one.reading || one.evidence.length === 0 ? (
                <Body className="mb-2">{one.reason}</Body>
              ) : null}
              {one.evidence.map((evidence) => (
                <Evidence key={evidence.where + evidence.sentence} one={evidence} onLeave={onLeave} />
              ))}
              <Also use={one.use} also={one.also} onLeave={onLeave} />
              {one.more > 0 ? <Small>{SAY.moreMoreStatementsOfIts(one.more)}</Small> : null}
              {more?.(one)}
            </View>
          ) : null}
        </View>
      ))}
    </View>
  );
}
