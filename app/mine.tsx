export { MineScreen as default } from "../ui/screens/pairing/MineScreen.tsx";
