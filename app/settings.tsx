export { SettingsScreen as default } from "../ui/screens/settings/SettingsScreen.tsx";
