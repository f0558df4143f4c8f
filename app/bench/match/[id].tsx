import { useNumberParam } from "../../../ui/parts/params.ts";
import { Split } from "../../../ui/parts/Shell.tsx";
import { MatchesScreen } from "../../../ui/screens/matching/MatchesScreen.tsx";
import { MatchScreen } from "../../../ui/screens/matching/MatchScreen.tsx";

export default function Match() {
  const id = useNumberParam("id") ?? 0;
  return <Split list={<MatchesScreen currentId={id} />} detail={<MatchScreen key={id} id={id} />} />;
}
