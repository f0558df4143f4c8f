import { Split } from "../../../ui/parts/Shell.tsx";
import { BenchScreen } from "../../../ui/screens/bench/BenchScreen.tsx";
import { MatchesScreen } from "../../../ui/screens/matching/MatchesScreen.tsx";

export default function Matches() {
  return <Split list={<BenchScreen />} detail={<MatchesScreen />} />;
}
