import { useLastUsed } from "../ui/data/lastUsed.ts";
import { Split } from "../ui/parts/Shell.tsx";
import { useWide } from "../ui/parts/useWide.ts";
import { DeviceScreen } from "../ui/screens/devices/DeviceScreen.tsx";
import { DevicesScreen } from "../ui/screens/devices/DevicesScreen.tsx";
import { Nothing } from "../ui/parts/Nothing.tsx";

export default function Devices() {
  const last = useLastUsed("device");
  const beside = useWide() && last !== null ? last : undefined;
  const nothing = (
    <Nothing
      words="Choose a device to see what it holds."
      ways={[
        { label: "Say where you work", href: "/where" },
        { label: "Pair a device", href: "/pairing" },
      ]}
    />
  );
  return (
    <Split
      listFirst
      list={<DevicesScreen currentId={beside} />}
      detail={beside === undefined ? nothing : <DeviceScreen key={beside} id={beside} />}
    />
  );
}
