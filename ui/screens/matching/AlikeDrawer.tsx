// The nearest look-alikes of a family, on its own page.
import { useAlike } from "../../data/hooks.ts";
import { Drawer, DrawerRow } from "../../parts/Drawer.tsx";
import { LinkRow } from "../../parts/LinkRow.tsx";
import { Loaded } from "../../parts/Status.tsx";
import { Body } from "../../parts/Text.tsx";
import { AlikeRows, isCleared } from "./AlikeRows.tsx";
import { SAY } from "../../sentences/matching/match.ts";

const SHOWN = 3;

export function AlikeDrawer({ familyId }: { familyId: number }) {
  const answer = useAlike(familyId, null);
  return (
    <Drawer label={SAY.whatLooksLikeIt} testID="alike-drawer">
      <Loaded answer={answer} what={SAY.comparingLetters}>
        {(view) => {
          // What may be used comes first among equals.
          const nearest = view.families.slice(0, SHOWN);
          const usable = view.families.find((one) => isCleared(one));
          const shown = usable && !nearest.includes(usable) ? [...nearest.slice(0, SHOWN - 1), usable] : nearest;
          return shown.length > 0 ? (
            <>
              <AlikeRows view={view} families={shown} jobId={null} />
              <LinkRow href={`/alike/${familyId}`} label={SAY.allFamiliesByWhatThey(view.families.length)} testID="all-alike" />
            </>
          ) : (
            <DrawerRow first>
              <Body>{view.unmeasured > 0 ? SAY.itsLettersAreStillBeing : SAY.nothingInYourLibraryLooks}</Body>
            </DrawerRow>
          );
        }}
      </Loaded>
    </Drawer>
  );
}
