import { useListParam, useNumberParam } from "../ui/parts/params.ts";
import { QuickCheckScreen } from "../ui/screens/sightings/QuickCheckScreen.tsx";

export default function QuickCheck() {
  const narrowed = { families: useListParam("families"), styles: useListParam("styles") };
  return <QuickCheckScreen programId={useNumberParam("program")} deviceId={useNumberParam("device")} {...narrowed} />;
}
