import { useNumberParam } from "../../../ui/parts/params.ts";
import { JobFormScreen } from "../../../ui/screens/jobs/JobFormScreen.tsx";

export default function EditJob() {
  return <JobFormScreen id={useNumberParam("id") ?? 0} />;
}
