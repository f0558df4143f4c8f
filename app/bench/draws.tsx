export { DrawsScreen as default } from "../../ui/screens/glyphs/DrawsScreen.tsx";
