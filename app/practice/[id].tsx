import { useNumberParam } from "../../ui/parts/params.ts";
import { PracticeScreen } from "../../ui/screens/practice/PracticeScreen.tsx";

export default function Practice() {
  const id = useNumberParam("id") ?? 0;
  return <PracticeScreen key={id} id={id} styleId={useNumberParam("style")} />;
}
