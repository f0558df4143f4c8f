import { useLocalSearchParams } from "expo-router";
import { useNumberParam } from "../../../ui/parts/params.ts";
import { Split } from "../../../ui/parts/Shell.tsx";
import { BenchScreen } from "../../../ui/screens/bench/BenchScreen.tsx";
import { CutScreen } from "../../../ui/screens/cutting/CutScreen.tsx";

export default function Cut() {
  const id = useNumberParam("id") ?? 0;
  const { line } = useLocalSearchParams<{ line?: string }>();
  return <Split list={<BenchScreen currentId={id} />} detail={<CutScreen key={`${id} ${line}`} sheetId={id} lineId={line ?? ""} />} />;
}
