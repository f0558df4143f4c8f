export { SightingsScreen as default } from "../ui/screens/SightingsScreen.tsx";
