import { useLocalSearchParams } from "expo-router";
import { useChosenCount } from "../ui/data/choosing.ts";
import { useLastUsed } from "../ui/data/lastUsed.ts";
import { Split } from "../ui/parts/Shell.tsx";
import { useWide } from "../ui/parts/useWide.ts";
import { FamiliesScreen } from "../ui/screens/families/FamiliesScreen.tsx";
import { FamilyScreen } from "../ui/screens/families/FamilyScreen.tsx";
import { Nothing } from "../ui/parts/Nothing.tsx";
import { SAY } from "../ui/sentences/families/families.ts";

export default function Families() {
  const last = useLastUsed("family");
  const chosen = useChosenCount("families");
  // Beside families that are chosen together stands none of them by itself.
  const beside = useWide() && last !== null && chosen === undefined ? last : undefined;
  const list = <FamiliesScreen params={useLocalSearchParams()} currentId={beside} />;
  const nothing = (
    <Nothing
      words={chosen === undefined ? SAY.chooseAFamilyToSee : SAY.whatIsDoneWithThem}
      ways={
        chosen === undefined
          ? [
              { label: "Bring in a download", href: "/" },
              { label: "See your jobs", href: "/jobs" },
            ]
          : []
      }
    />
  );
  return <Split listFirst list={list} detail={beside === undefined ? nothing : <FamilyScreen key={beside} id={beside} />} />;
}
