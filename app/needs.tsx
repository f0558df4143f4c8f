export { NeedsScreen as default } from "../ui/screens/documents/NeedsScreen.tsx";
