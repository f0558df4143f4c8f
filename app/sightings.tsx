import { useLocalSearchParams } from "expo-router";
import { SightingsScreen } from "../ui/screens/sightings/SightingsScreen.tsx";

export default function Sightings() {
  return <SightingsScreen params={useLocalSearchParams()} />;
}
