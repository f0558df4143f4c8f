export { PairingScreen as default } from "../ui/screens/PairingScreen.tsx";
