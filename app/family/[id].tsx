import { useChosenCount } from "../../ui/data/choosing.ts";
import { Nothing } from "../../ui/parts/Nothing.tsx";
import { Split } from "../../ui/parts/Shell.tsx";
import { useNumberParam } from "../../ui/parts/params.ts";
import { useWide } from "../../ui/parts/useWide.ts";
import { SAY } from "../../ui/sentences/families/families.ts";
import { FamiliesScreen } from "../../ui/screens/families/FamiliesScreen.tsx";
import { FamilyScreen } from "../../ui/screens/families/FamilyScreen.tsx";

export default function Family() {
  const id = useNumberParam("id") ?? 0;
  const choosing = useChosenCount("families") !== undefined;
  // Beside families that are chosen together stands none of them by itself.
  const detail = useWide() && choosing ? <Nothing words={SAY.whatIsDoneWithThem} /> : <FamilyScreen key={id} id={id} />;
  return <Split list={<FamiliesScreen currentId={choosing ? undefined : id} />} detail={detail} />;
}
