import { JobFormScreen } from "../../ui/screens/JobFormScreen.tsx";

export default function NewJob() {
  return <JobFormScreen />;
}
