import { Split } from "../../ui/parts/Shell.tsx";
import { useNumberParam } from "../../ui/parts/params.ts";
import { ParcelScreen } from "../../ui/screens/parcels/ParcelScreen.tsx";
import { TodayScreen } from "../../ui/screens/today/TodayScreen.tsx";

export default function Parcel() {
  const id = useNumberParam("id") ?? 0;
  return <Split list={<TodayScreen />} detail={<ParcelScreen key={id} id={id} />} />;
}
