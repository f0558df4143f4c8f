import { Split } from "../ui/parts/Shell.tsx";
import { DevicesScreen } from "../ui/screens/DevicesScreen.tsx";
import { Nothing } from "../ui/screens/Nothing.tsx";

export default function Devices() {
  return <Split listFirst list={<DevicesScreen />} detail={<Nothing words="Choose a device to see what it holds." />} />;
}
