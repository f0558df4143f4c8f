import { useNumberParam } from "../ui/parts/params.ts";
import { PlaceScreen } from "../ui/screens/placing/PlaceScreen.tsx";

export default function Place() {
  return <PlaceScreen familyId={useNumberParam("family") ?? 0} />;
}
