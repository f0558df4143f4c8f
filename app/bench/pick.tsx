export { PickScreen as default } from "../../ui/screens/bench/PickScreen.tsx";
