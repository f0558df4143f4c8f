// One parcel in a list: its name, how far it is, and where it leads.
import { Link } from "expo-router";
import { View } from "react-native";
import type { ParcelSummary } from "../../../contract/parcels.ts";
import { sizeWords } from "../../../core/words/words.ts";
import { useProgress } from "../../data/progress.ts";
import { ChooseBox } from "../../parts/ChooseBar.tsx";
import { ProgressBar } from "../../parts/Status.tsx";
import { Small, Strong } from "../../parts/Text.tsx";
import { SAY } from "../../sentences/parcels/parcel.ts";

function words(parcel: ParcelSummary): string {
  switch (parcel.state) {
    case "waiting":
      return SAY.waitingToBeUnpacked;
    case "unpacking":
      return SAY.unpacking;
    case "failed":
      return parcel.problem?.message ?? SAY.couldNotBeUnpacked;
    case "ready":
      return SAY.whatIsInAParcel(parcel);
  }
}

/** `picked` says whether it is chosen; left out while nobody chooses. */
export function ParcelRow({ parcel, first, picked }: { parcel: ParcelSummary; first: boolean; picked?: boolean | undefined }) {
  const live = useProgress(parcel.id);
  const progress = parcel.state === "unpacking" ? (live ?? parcel.progress) : null;
  const part = progress?.entriesTotal ? progress.entriesDone / progress.entriesTotal : undefined;
  return (
    <View dataSet={{ choose: String(parcel.id) }} className={`w-full ${first ? "" : "border-t border-edge"}`}>
      <Link
        href={`/parcel/${parcel.id}`}
        className="w-full"
        testID="parcel-row"
        role={picked === undefined ? undefined : "checkbox"}
        aria-checked={picked}
      >
        <View className="min-h-[56px] w-full flex-row items-center gap-3 px-3 py-2">
          {picked === undefined ? null : <ChooseBox on={picked} />}
          <View className="min-w-0 flex-1">
            <View className="flex-row justify-between gap-3">
              <Strong lines={1} className="min-w-0 flex-1">
                {parcel.name}
              </Strong>
              <Small>{sizeWords(parcel.bytes)}</Small>
            </View>
            <Small className={parcel.state === "failed" ? "text-warning" : ""}>{words(parcel)}</Small>
            {/* Room for the bar is kept while it may come, so that nothing jumps. */}
            {parcel.state === "unpacking" || parcel.state === "waiting" ? (
              <View className="mt-2 h-2">{progress ? <ProgressBar part={part} label={SAY.unpackingName(parcel.name)} /> : null}</View>
            ) : null}
          </View>
        </View>
      </Link>
    </View>
  );
}
