import { Split } from "../ui/parts/Shell.tsx";
import { BenchScreen } from "../ui/screens/BenchScreen.tsx";
import { Nothing } from "../ui/screens/Nothing.tsx";

export default function Bench() {
  return (
    <Split listFirst list={<BenchScreen />} detail={<Nothing words="Choose a sheet, or begin one with your words in every style." />} />
  );
}
