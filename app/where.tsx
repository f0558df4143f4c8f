export { WhereScreen as default } from "../ui/screens/devices/WhereScreen.tsx";
