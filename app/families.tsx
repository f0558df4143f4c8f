import { useLocalSearchParams } from "expo-router";
import { Split } from "../ui/parts/Shell.tsx";
import { Nothing } from "../ui/screens/Nothing.tsx";
import { FamiliesScreen } from "../ui/screens/FamiliesScreen.tsx";

export default function Families() {
  const list = <FamiliesScreen params={useLocalSearchParams()} />;
  return <Split listFirst list={list} detail={<Nothing words="Choose a family to see its styles, its papers and where it is." />} />;
}
