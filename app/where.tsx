export { WhereScreen as default } from "../ui/screens/WhereScreen.tsx";
