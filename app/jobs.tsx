import { Split } from "../ui/parts/Shell.tsx";
import { JobsScreen } from "../ui/screens/JobsScreen.tsx";
import { Nothing } from "../ui/screens/Nothing.tsx";

export default function Jobs() {
  return <Split listFirst list={<JobsScreen />} detail={<Nothing words="Choose a job to see how its families stand." />} />;
}
