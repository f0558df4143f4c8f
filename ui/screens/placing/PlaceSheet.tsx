// Where several families or styles, or a job's, go: the form of placing over the list they were chosen in.
import type { ChosenFamilies } from "../../../contract/families.ts";
import { Sheet } from "../../parts/Sheet.tsx";
import { PlaceChoices, ShowPlan, usePlacing, type Placed } from "./PlaceForm.tsx";
import { SAY } from "../../sentences/placing/place.ts";

interface Props {
  title: string;
  what: Placed;
  /** Where some of it is already; undefined while that is looked up, or where nobody asked. */
  devices?: ChosenFamilies["devices"] | undefined;
  onClose: () => void;
}

export function PlaceSheet({ title, what, devices, onClose }: Props) {
  const there = new Map((devices ?? []).map((one) => [one.id, one.on + one.off]));
  const placing = usePlacing({ what, many: true });
  return (
    <Sheet title={title} note={SAY.nothingChangesYetThePlan} onClose={onClose} testID="place-sheet" action={<ShowPlan placing={placing} />}>
      <PlaceChoices
        placing={placing}
        noteOf={({ id }) => {
          const files = there.get(id);
          return files === undefined ? "" : files > 0 ? SAY.ofThemThereAlready(files) : SAY.noneOfThemThereYet;
        }}
      />
    </Sheet>
  );
}
