// One family in the list: its name, a specimen of the person's own words, its trail. Chosen by its box while somebody chooses.
import { Link } from "expo-router";
import { memo } from "react";
import { View } from "react-native";
import type { FamilyQuery, FamilySummary } from "../../../contract/families.ts";
import { count } from "../../../core/words/words.ts";
import { FAMILY_PAGE, useFamiliesNear } from "../../data/hooks.ts";
import { useWords } from "../../data/words.ts";
import { ChooseBox } from "../../parts/ChooseBar.tsx";
import { Pin } from "../../parts/icons.ts";
import { Trail } from "../../parts/Marks.tsx";
import { Specimen } from "../../parts/Specimen.tsx";
import { Small, Strong } from "../../parts/Text.tsx";
import { usePalette } from "../../theme/theme.ts";
import { SAY } from "../../sentences/families/families.ts";

/** undefined: nobody chooses. */
type Picked = boolean | undefined;

interface CardProps {
  family: FamilySummary;
  words: string;
  size: number;
  current: boolean;
  picked: Picked;
}

const FamilyCard = memo(function FamilyCard({ family, words, size, current, picked }: CardProps) {
  const palette = usePalette();
  const edge = picked || current ? "border-ink" : "border-edge";
  return (
    <View dataSet={{ choose: String(family.id) }} className="mb-3 w-full">
      <Link
        href={`/family/${family.id}`}
        className="w-full"
        testID="family-card"
        role={picked === undefined ? undefined : "checkbox"}
        aria-checked={picked}
        aria-current={current ? "true" : undefined}
      >
        <View className={`w-full border bg-drawer px-3 pb-2 pt-3 ${edge}`}>
          {/* The name is read before the specimen and stands below it. */}
          <View className="flex-col-reverse">
            <View className="mb-2 mt-1 flex-row items-center justify-between gap-3">
              {picked === undefined ? null : <ChooseBox on={picked} />}
              <Strong lines={1} className="min-w-0 flex-1">
                {family.name}
              </Strong>
              {family.pinned ? <Pin size={16} color={palette.ink} role="img" aria-label={SAY.pinned} /> : null}
              <Small>{count(family.styles, "style")}</Small>
            </View>
            <Specimen specimen={family.specimen} words={words} size={size} covered={family.coversText} />
          </View>
          <Trail stations={family.trail} />
        </View>
      </Link>
    </View>
  );
});

/** One place in the list; its part of the list is fetched when it comes near the window, and its room is kept until then. */
interface PlaceProps {
  index: number;
  query: FamilyQuery;
  size: number;
  currentId: number | undefined;
  /** IDs that are chosen; undefined while nobody chooses. */
  chosen: ReadonlySet<string> | undefined;
}

export const FamilyAt = memo(function FamilyAt({ index, query, size, currentId, chosen }: PlaceProps) {
  const [words] = useWords();
  const page = useFamiliesNear(query, index);
  const family = page.data?.families[index % FAMILY_PAGE];
  if (!family) return <View style={{ height: size * 1.3 + 100 }} className="mb-3 w-full border border-edge bg-drawer" aria-hidden />;
  return <FamilyCard family={family} words={words} size={size} current={family.id === currentId} picked={chosen?.has(String(family.id))} />;
});
