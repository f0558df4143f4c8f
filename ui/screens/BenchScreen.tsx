// The bench: kept sheets, and ways to begin one.
import { Link, useRouter } from "expo-router";
import { useCallback } from "react";
import { View } from "react-native";
import { SheetDetail, type SheetSummary } from "../../contract/bench.ts";
import { dayOf } from "../../core/words/dates.ts";
import { count } from "../../core/words/words.ts";
import { send } from "../data/api.ts";
import { useSheets } from "../data/hooks.ts";
import { useAction } from "../data/useAction.ts";
import { useWords } from "../data/words.ts";
import { Button } from "../parts/Button.tsx";
import { Drawer } from "../parts/Drawer.tsx";
import { Plus, ScanSearch, Type } from "../parts/icons.ts";
import { LinkRow } from "../parts/LinkRow.tsx";
import { Screen } from "../parts/Screen.tsx";
import { ApiProblemNote, Empty, Loaded } from "../parts/Status.tsx";
import { Body, Small, Strong } from "../parts/Text.tsx";

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
      const made = await send("POST", "/bench/sheets", SheetDetail, { name: words.trim().slice(0, 60) || "New sheet" });
      router.push(`/bench/pick?sheet=${made.id}`);
    }, [words, router]),
  );
  return (
    <Screen
      title="Bench"
      note="Try words, find characters, lay faces over one another, show a client."
      testID="bench"
      action={
        <Button strong={currentId === undefined} icon={Plus} label="A new sheet" busy={make.busy} onPress={make.run} testID="new-sheet" />
      }
    >
      {make.problem ? <ApiProblemNote problem={make.problem} /> : null}
      <Drawer label="Look through the library">
        <LinkRow
          first
          icon={Type}
          href="/bench/pick"
          label="Your words in every style"
          note="Scroll, filter, pin what you like."
          testID="look-through"
        />
        <LinkRow
          icon={Type}
          href="/bench/pick?letter=1"
          label="One letter in every style"
          note="The & or the R with the right curl."
          testID="one-letter"
        />
        <LinkRow
          icon={Type}
          href="/bench/draws"
          label="Who draws this character?"
          note="Paste a character or name a sign; see every style that has it."
          testID="who-draws"
        />
        <LinkRow
          icon={ScanSearch}
          href="/bench/match"
          label="Match a picture"
          note="Which of your fonts is on that board? What is like it?"
          testID="match-picture-link"
        />
      </Drawer>
      <Loaded answer={answer} what="Fetching your sheets">
        {(sheets) =>
          sheets.length === 0 ? (
            <Empty title="No sheet yet.">
              <Body>A sheet keeps your words in the styles you try, with the job they are for. It is kept by itself.</Body>
            </Empty>
          ) : (
            sheets.map((sheet) => <SheetCard key={sheet.id} sheet={sheet} current={sheet.id === currentId} />)
          )
        }
      </Loaded>
    </Screen>
  );
}
