import { useLocalSearchParams } from "expo-router";
import { useLastUsed } from "../ui/data/lastUsed.ts";
import { Split } from "../ui/parts/Shell.tsx";
import { useWide } from "../ui/parts/useWide.ts";
import { FamiliesScreen } from "../ui/screens/families/FamiliesScreen.tsx";
import { FamilyScreen } from "../ui/screens/families/FamilyScreen.tsx";
import { Nothing } from "../ui/parts/Nothing.tsx";

export default function Families() {
  const last = useLastUsed("family");
  const beside = useWide() && last !== null ? last : undefined;
  const list = <FamiliesScreen params={useLocalSearchParams()} currentId={beside} />;
  const nothing = (
    <Nothing
      words="Choose a family to see its styles, its papers and where it is."
      ways={[
        { label: "Bring in a download", href: "/" },
        { label: "See your jobs", href: "/jobs" },
      ]}
    />
  );
  return <Split listFirst list={list} detail={beside === undefined ? nothing : <FamilyScreen key={beside} id={beside} />} />;
}
