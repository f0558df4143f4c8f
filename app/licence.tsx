import { useNumberParam } from "../ui/parts/params.ts";
import { LicenceScreen } from "../ui/screens/clearance/LicenceScreen.tsx";

export default function Licence() {
  return <LicenceScreen familyId={useNumberParam("family") ?? 0} />;
}
