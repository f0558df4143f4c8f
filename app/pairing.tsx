export { PairingScreen as default } from "../ui/screens/pairing/PairingScreen.tsx";
