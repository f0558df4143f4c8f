import { useLastUsed } from "../ui/data/lastUsed.ts";
import { Split } from "../ui/parts/Shell.tsx";
import { useWide } from "../ui/parts/useWide.ts";
import { JobScreen } from "../ui/screens/jobs/JobScreen.tsx";
import { JobsScreen } from "../ui/screens/jobs/JobsScreen.tsx";
import { Nothing } from "../ui/parts/Nothing.tsx";

export default function Jobs() {
  const last = useLastUsed("job");
  const beside = useWide() && last !== null ? last : undefined;
  const nothing = <Nothing words="Choose a job to see how its families stand." ways={[{ label: "Make a job", href: "/job/new" }]} />;
  return (
    <Split
      listFirst
      list={<JobsScreen currentId={beside} />}
      detail={beside === undefined ? nothing : <JobScreen key={beside} id={beside} />}
    />
  );
}
