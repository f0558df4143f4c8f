// Families that look like one: the nearest first, each with what it may be used for, compared on the bench by one tap.
import { Link, useRouter } from "expo-router";
import { useCallback } from "react";
import { View } from "react-native";
import { SheetDetail } from "../../../contract/bench.ts";
import { StyleHead } from "../../../contract/bench.ts";
import type { AlikeFamily, AlikeView } from "../../../contract/matching.ts";
import { get, send } from "../../data/api.ts";
import { newLine } from "../../data/bench.ts";
import { useAction } from "../../data/useAction.ts";
import { useWords } from "../../data/words.ts";
import { Button } from "../../parts/Button.tsx";
import { DrawerRow } from "../../parts/Drawer.tsx";
import { ApiProblemNote } from "../../parts/Status.tsx";
import { Body, Small, Strong } from "../../parts/Text.tsx";
import { SAY } from "../../sentences/matching/match.ts";

const ALIKE_WORDS: Record<AlikeFamily["alike"], string> = {
  same: SAY.theSameDesignItSeems,
  near: "Near relative",
  manner: SAY.sameManner,
};
export const isCleared = ({ cleared }: AlikeFamily): boolean => cleared === "yes" || cleared === "credit";

export function AlikeRows({ view, families, jobId }: { view: AlikeView; families: readonly AlikeFamily[]; jobId: number | null }) {
  const router = useRouter();
  const [words] = useWords();
  const compare = useAction(
    useCallback(
      async (one: AlikeFamily) => {
        const heads = await Promise.all([one.ofStyleId, one.styleId].map((id) => get(`/styles/${id}`, StyleHead)));
        const lines = heads.map(({ sha256, face, family, style }) => newLine(words || family, { sha256, face, family, style }));
        const name = `${view.family} and ${one.family}`.slice(0, 120);
        const sheet = await send("POST", "/bench/sheets", SheetDetail, { name, body: { name, jobId, ground: "#ffffff", lines } });
        router.push(`/bench/sheet/${sheet.id}`);
      },
      [words, view.family, jobId, router],
    ),
  );
  return (
    <>
      {compare.problem ? <ApiProblemNote problem={compare.problem} /> : null}
      {families.map((one, i) => (
        <DrawerRow key={one.familyId} first={i === 0} testID="alike">
          <View className="flex-row items-center gap-3">
            <Link href={`/family/${one.familyId}`} className="min-w-0 flex-1">
              <View className="min-h-[44px] justify-center">
                <Strong lines={2}>{one.family}</Strong>
                <Body>{ALIKE_WORDS[one.alike]}</Body>
                <Small>{SAY.nearestAreItsStyleAnd(one.style, one.ofStyle)}</Small>
                {one.clearance ? <Small>{one.clearance}</Small> : null}
              </View>
            </Link>
            <Button
              label={SAY.compare}
              hint={SAY.familyWithOnTheBench(view.family, one.family)}
              busy={compare.busy}
              onPress={() => compare.run(one)}
              testID="alike-compare"
            />
          </View>
        </DrawerRow>
      ))}
    </>
  );
}
