import { useNumberParam } from "../ui/parts/params.ts";
import { QuickCheckScreen } from "../ui/screens/QuickCheckScreen.tsx";

export default function QuickCheck() {
  return <QuickCheckScreen programId={useNumberParam("program")} />;
}
