import { useNumberParam } from "../ui/parts/params.ts";
import { DuplicatesScreen } from "../ui/screens/DuplicatesScreen.tsx";

export default function Duplicates() {
  return <DuplicatesScreen deviceId={useNumberParam("device") ?? 0} />;
}
