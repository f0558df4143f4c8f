import { useNumberParam } from "../ui/parts/params.ts";
import { TabletScreen } from "../ui/screens/placing/TabletScreen.tsx";

export default function Tablet() {
  return <TabletScreen familyId={useNumberParam("family") ?? 0} />;
}
