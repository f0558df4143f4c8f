export { MineScreen as default } from "../ui/screens/MineScreen.tsx";
