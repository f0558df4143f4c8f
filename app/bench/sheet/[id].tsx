import { useNumberParam } from "../../../ui/parts/params.ts";
import { Split } from "../../../ui/parts/Shell.tsx";
import { BenchScreen } from "../../../ui/screens/bench/BenchScreen.tsx";
import { SheetScreen } from "../../../ui/screens/bench/SheetScreen.tsx";

export default function Sheet() {
  const id = useNumberParam("id") ?? 0;
  return <Split list={<BenchScreen currentId={id} />} detail={<SheetScreen key={id} id={id} />} />;
}
