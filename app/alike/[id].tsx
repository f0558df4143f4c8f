import { useNumberParam } from "../../ui/parts/params.ts";
import { Split } from "../../ui/parts/Shell.tsx";
import { AlikeScreen } from "../../ui/screens/matching/AlikeScreen.tsx";
import { FamilyScreen } from "../../ui/screens/families/FamilyScreen.tsx";

export default function Alike() {
  const id = useNumberParam("id") ?? 0;
  return <Split list={<FamilyScreen id={id} />} detail={<AlikeScreen key={id} familyId={id} jobId={useNumberParam("job") ?? null} />} />;
}
