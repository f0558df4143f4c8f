import { useLocalSearchParams } from "expo-router";
import { SightingsScreen } from "../ui/screens/SightingsScreen.tsx";

export default function Sightings() {
  return <SightingsScreen params={useLocalSearchParams()} />;
}
