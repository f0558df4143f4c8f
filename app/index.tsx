export { TodayScreen as default } from "../ui/screens/today/TodayScreen.tsx";
