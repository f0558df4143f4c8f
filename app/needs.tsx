export { NeedsScreen as default } from "../ui/screens/NeedsScreen.tsx";
