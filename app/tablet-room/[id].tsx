import { useNumberParam } from "../../ui/parts/params.ts";
import { TabletRoomScreen } from "../../ui/screens/practice/TabletRoomScreen.tsx";

export default function TabletRoom() {
  const id = useNumberParam("id") ?? 0;
  return <TabletRoomScreen key={id} deviceId={id} />;
}
