// The papers a family came with: what kind each is, in which language, whether it was read; opened and read in place.
import type { FamilyDetail } from "../../../contract/families.ts";
import { sizeWords } from "../../../core/words/words.ts";
import { useClearance } from "../../data/hooks.ts";
import { Drawer, DrawerRow } from "../../parts/Drawer.tsx";
import { ReadPaper } from "../../parts/ReadPaper.tsx";
import { Body, Small } from "../../parts/Text.tsx";
import { SAY } from "../../sentences/parcels/parcel.ts";

export function PapersDrawer({ familyId, papers }: { familyId: number; papers: FamilyDetail["papers"] }) {
  const read = useClearance(familyId).data?.papers ?? [];
  if (papers.length === 0) return null;
  return (
    <Drawer label={SAY.papers} testID="papers">
      {papers.map((paper, i) => {
        const how = read.find((one) => one.sha256 === paper.sha256 && one.path === paper.path);
        return (
          <DrawerRow key={paper.path + paper.parcelId} first={i === 0} testID="paper">
            <Body>{paper.path}</Body>
            <Small>
              {[how?.kind, how?.languages.join(", "), sizeWords(paper.bytes), `from ${paper.parcelName}`].filter(Boolean).join(" · ")}
            </Small>
            {how?.unread ? <Small className="text-warning">{how.unread}</Small> : null}
            <ReadPaper sha256={paper.sha256} path={paper.path} />
          </DrawerRow>
        );
      })}
    </Drawer>
  );
}
