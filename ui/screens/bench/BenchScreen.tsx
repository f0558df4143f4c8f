// The bench: kept sheets, and ways to begin one.
import { Link, useRouter } from "expo-router";
import { useCallback } from "react";
import { View } from "react-native";
import { SheetDetail, type SheetSummary } from "../../../contract/bench.ts";
import { dayOf } from "../../../core/words/dates.ts";
import { count } from "../../../core/words/words.ts";
import { send } from "../../data/api.ts";
import { useSheets } from "../../data/hooks.ts";
import { useAction } from "../../data/useAction.ts";
import { useWords } from "../../data/words.ts";
import { Button } from "../../parts/Button.tsx";
import { Drawer } from "../../parts/Drawer.tsx";
import { Plus, ScanSearch, Type } from "../../parts/icons.ts";
import { LinkRow } from "../../parts/LinkRow.tsx";
import { Screen } from "../../parts/Screen.tsx";
import { ApiProblemNote, Empty, Loaded } from "../../parts/Status.tsx";
import { Body, Small, Strong } from "../../parts/Text.tsx";
import { SAY } from "../../sentences/bench/bench.ts";

function SheetCard({ sheet, current }: { sheet: SheetSummary; current: boolean }) {
  const day = dayOf(sheet.changedAt);
  return (
    <Link href={`/bench/sheet/${sheet.id}`} className="mb-3 w-full" testID="sheet-card" aria-current={current ? "true" : undefined}>
      <View className={`min-h-[64px] w-full justify-center border bg-drawer px-3 py-3 ${current ? "border-ink" : "border-edge"}`}>
        <Strong lines={1}>{sheet.name}</Strong>
        {sheet.words ? <Body lines={1}>“{sheet.words}”</Body> : null}
        <Small lines={2}>
          {[count(sheet.lines, "line"), sheet.families.join(", "), sheet.jobName ? `for ${sheet.jobName}` : "", day]
            .filter(Boolean)
            .join(" · ")}
        </Small>
      </View>
    </Link>
  );
}

export function BenchScreen({ currentId }: { currentId?: number }) {
  const answer = useSheets();
  const router = useRouter();
  const [words] = useWords();
  const make = useAction(
    useCallback(async () => {
      const made = await send("POST", "/bench/sheets", SheetDetail, { name: words.trim().slice(0, 60) || SAY.newSheet });
      router.push(`/bench/pick?sheet=${made.id}`);
    }, [words, router]),
  );
  return (
    <Screen
      title={SAY.bench}
      note={SAY.tryWordsFindCharactersLay}
      testID="bench"
      action={
        <Button strong={currentId === undefined} icon={Plus} label={SAY.aNewSheet} busy={make.busy} onPress={make.run} testID="new-sheet" />
      }
    >
      {make.problem ? <ApiProblemNote problem={make.problem} /> : null}
      <Drawer label={SAY.lookThroughTheLibrary}>
        <LinkRow
          first
          icon={Type}
          href="/bench/pick"
          label={SAY.yourWordsInEveryStyle}
          note={SAY.scrollFilterPinWhatYou}
          testID="look-through"
        />
        <LinkRow icon={Type} href="/bench/pick?letter=1" label={SAY.oneLetterInEveryStyle} note={SAY.theOrTheRWith} testID="one-letter" />
        <LinkRow
          icon={Type}
          href="/bench/draws"
          label={SAY.whichStylesDrawThisCharacter}
          note={SAY.pasteACharacterOrName}
          testID="who-draws"
        />
        <LinkRow
          icon={ScanSearch}
          href="/bench/match"
          label={SAY.matchAPicture}
          note={SAY.whichOfYourFontsIs}
          testID="match-picture-link"
        />
      </Drawer>
      <Loaded answer={answer} what={SAY.fetchingYourSheets}>
        {(sheets) =>
          sheets.length === 0 ? (
            <Empty title={SAY.noSheetYet}>
              <Body>{SAY.aSheetKeepsYourWords}</Body>
            </Empty>
          ) : (
            sheets.map((sheet) => <SheetCard key={sheet.id} sheet={sheet} current={sheet.id === currentId} />)
          )
        }
      </Loaded>
    </Screen>
  );
}
