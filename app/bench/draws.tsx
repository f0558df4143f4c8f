export { DrawsScreen as default } from "../../ui/screens/bench/DrawsScreen.tsx";
