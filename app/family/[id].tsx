import { Split } from "../../ui/parts/Shell.tsx";
import { useNumberParam } from "../../ui/parts/params.ts";
import { FamiliesScreen } from "../../ui/screens/families/FamiliesScreen.tsx";
import { FamilyScreen } from "../../ui/screens/families/FamilyScreen.tsx";

export default function Family() {
  const id = useNumberParam("id") ?? 0;
  return <Split list={<FamiliesScreen currentId={id} />} detail={<FamilyScreen key={id} id={id} />} />;
}
