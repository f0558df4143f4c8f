import { useNumberParam } from "../../ui/parts/params.ts";
import { Split } from "../../ui/parts/Shell.tsx";
import { JobScreen } from "../../ui/screens/jobs/JobScreen.tsx";
import { JobsScreen } from "../../ui/screens/jobs/JobsScreen.tsx";

export default function Job() {
  const id = useNumberParam("id") ?? 0;
  return <Split list={<JobsScreen currentId={id} />} detail={<JobScreen key={id} id={id} />} />;
}
