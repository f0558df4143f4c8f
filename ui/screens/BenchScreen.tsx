// The bench: the same words in several families, side by side, to choose between candidates.
import { useState } from "react";
import { Pressable, View } from "react-native";
import type { FamilySummary } from "../../contract/family.ts";
import { useFamilies } from "../data/hooks.ts";
import { useSize, useWords } from "../data/words.ts";
import { Drawer } from "../parts/Drawer.tsx";
import { Screen } from "../parts/Screen.tsx";
import { Specimen } from "../parts/Specimen.tsx";
import { Empty, Loaded } from "../parts/Status.tsx";
import { Body, Small, Strong } from "../parts/Text.tsx";
import { WordsBar } from "../parts/WordsBar.tsx";

function Candidate({ family, chosen, first, onPress }: { family: FamilySummary; chosen: boolean; first: boolean; onPress: () => void }) {
  return (
    <Pressable
      role="checkbox"
      aria-checked={chosen}
      onPress={onPress}
      className={`min-h-[48px] flex-row items-center gap-3 px-3 active:opacity-60 ${first ? "" : "border-t border-edge"}`}
    >
      <View className={`h-5 w-5 items-center justify-center border-2 ${chosen ? "border-ink" : "border-faded"}`}>
        {chosen ? <View className="h-2.5 w-2.5 bg-ink" /> : null}
      </View>
      <Body lines={1} className="min-w-0 flex-1">
        {family.name}
      </Body>
    </Pressable>
  );
}

export function BenchScreen() {
  const [words] = useWords();
  const [size] = useSize();
  const answer = useFamilies({ text: words, limit: 500 });
  const [picked, setPicked] = useState<readonly number[]>([]);
  const toggle = (id: number) => setPicked(picked.includes(id) ? picked.filter((one) => one !== id) : [...picked, id]);
  return (
    <Screen title="Bench" note="Your words, side by side." testID="bench">
      <WordsBar />
      <Loaded answer={answer} what="Fetching your families">
        {({ families }) =>
          families.length === 0 ? (
            <Empty title="Nothing to try yet.">
              <Body>Shelve a family first; then compare your words in several of them here.</Body>
            </Empty>
          ) : (
            <>
              {families
                .filter((family) => picked.includes(family.id))
                .map((family) => (
                  <View key={family.id} className="mb-3 border border-edge bg-drawer p-3" testID="bench-specimen">
                    <Specimen specimen={family.specimen} words={words} size={size} covered={family.coversText} />
                    <Strong>{family.name}</Strong>
                  </View>
                ))}
              {picked.length === 0 ? <Small className="mb-3">Choose the families to compare.</Small> : null}
              <Drawer label="Candidates">
                {families.map((family, i) => (
                  <Candidate
                    key={family.id}
                    family={family}
                    chosen={picked.includes(family.id)}
                    first={i === 0}
                    onPress={() => toggle(family.id)}
                  />
                ))}
              </Drawer>
            </>
          )
        }
      </Loaded>
    </Screen>
  );
}
