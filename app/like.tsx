import { useNumberParam } from "../ui/parts/params.ts";
import { LikeScreen } from "../ui/screens/devices/LikeScreen.tsx";

export default function Like() {
  return <LikeScreen deviceId={useNumberParam("device") ?? 0} />;
}
