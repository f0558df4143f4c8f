import { Split } from "../../ui/parts/Shell.tsx";
import { useNumberParam } from "../../ui/parts/params.ts";
import { DeviceScreen } from "../../ui/screens/devices/DeviceScreen.tsx";
import { DevicesScreen } from "../../ui/screens/devices/DevicesScreen.tsx";

export default function Device() {
  const id = useNumberParam("id") ?? 0;
  return <Split list={<DevicesScreen currentId={id} />} detail={<DeviceScreen key={id} id={id} />} />;
}
