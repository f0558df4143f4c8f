import { useLocalSearchParams } from "expo-router";
import { JobFormScreen } from "../../ui/screens/jobs/JobFormScreen.tsx";

export default function NewJob() {
  return <JobFormScreen withChosen={useLocalSearchParams()["families"] === "chosen"} />;
}
