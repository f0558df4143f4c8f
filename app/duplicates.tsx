import { useNumberParam } from "../ui/parts/params.ts";
import { DuplicatesScreen } from "../ui/screens/devices/DuplicatesScreen.tsx";

export default function Duplicates() {
  return <DuplicatesScreen deviceId={useNumberParam("device") ?? 0} />;
}
