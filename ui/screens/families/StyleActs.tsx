// What can be done with several styles of a family: placed by themselves, compared on the bench.
import { useMemo, useState } from "react";
import type { FamilyDetail } from "../../../contract/families.ts";
import { useChosenFamilies } from "../../data/chosen.ts";
import type { Choosing } from "../../data/choosing.ts";
import { Button } from "../../parts/Button.tsx";
import { ChooseBar } from "../../parts/ChooseBar.tsx";
import { FlaskConical, MonitorUp } from "../../parts/icons.ts";
import { ApiProblemNote } from "../../parts/Status.tsx";
import { useNewSheet } from "../bench/newSheet.ts";
import { PlaceSheet } from "../placing/PlaceSheet.tsx";
import { SAY } from "../../sentences/families/families.ts";

export function StyleActs({ family, choosing }: { family: FamilyDetail; choosing: Choosing }) {
  const { chosen, end, put } = choosing;
  const [placing, setPlacing] = useState(false);
  const ids = useMemo(() => [family.id], [family.id]);
  const known = useChosenFamilies(ids, placing);
  const styles = family.styleList.filter((style) => chosen?.keys.has(String(style.id)));
  const compare = useNewSheet();
  if (!chosen) return null;
  const none = styles.length === 0;
  const all = family.styleList.length;
  return (
    <>
      <ChooseBar
        words={none ? SAY.chooseStyles : SAY.stylesChosen(styles.length)}
        all={
          styles.length < all
            ? { label: SAY.allAll(all), onPress: () => put(family.styleList.map((style) => String(style.id))) }
            : undefined
        }
        onEnd={end}
      >
        {compare.problem ? <ApiProblemNote problem={compare.problem} /> : null}
        <Button
          strong
          icon={MonitorUp}
          label={SAY.place}
          disabled={none}
          onPress={() => setPlacing(true)}
          className="flex-1"
          testID="styles-place"
        />
        <Button
          icon={FlaskConical}
          label={SAY.compareOnTheBench}
          disabled={none}
          busy={compare.busy}
          onPress={() => compare.run(family.name, styles)}
          testID="styles-compare"
        />
      </ChooseBar>
      {placing ? (
        <PlaceSheet
          title={SAY.placeStylesOfName(styles.length, family.name)}
          what={{ familyIds: [family.id], styleIds: styles.map((style) => style.id) }}
          devices={known?.devices}
          onClose={() => setPlacing(false)}
        />
      ) : null}
    </>
  );
}
