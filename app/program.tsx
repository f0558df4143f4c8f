import { useNumberParam } from "../ui/parts/params.ts";
import { ProgramFormScreen } from "../ui/screens/sightings/ProgramFormScreen.tsx";

export default function Program() {
  const id = useNumberParam("id");
  return <ProgramFormScreen key={id ?? "new"} deviceId={useNumberParam("device")} programId={id} />;
}
